<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Http\UploadedFile;
use Illuminate\Log\Events\MessageLogged;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Event;
use PHPUnit\Framework\Attributes\TestWith;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Reihe\Formats\Tests\Mutations;

/** Whatever is wrong with a file, it is refused with a sentence, or comes in whole. REIHE_ROUNDS=2000 runs the bar. */
final class ImportFuzzTest extends TestCase
{
    #[TestWith(['plan-xml'])]
    #[TestWith(['icalendar'])]
    #[TestWith(['xcal'])]
    #[TestWith(['jcal'])]
    public function test_mutated_files_are_refused_or_come_in_whole(string $format): void
    {
        $this->actingAs($this->person('ilse'));
        $logged = [];
        Event::listen(MessageLogged::class, static function (MessageLogged $said) use (&$logged): void {
            $logged[] = $said->message;
        });
        $random = new Randomizer(new Mt19937(crc32($format)));
        $ours = (string) $this->get("/api/v1/exchange/export?projects=GRID,OSTV&format={$format}")->assertOk()->getContent();
        $theirs = str_replace('reihe:', 'yard:', $ours);
        $branch = $this->branch('Varnsund Ferries');
        $count = ['read' => 0, 'refused' => 0, 'applied' => 0];
        $rounds = (int) (getenv('REIHE_ROUNDS') ?: 30);
        for ($round = 0; $round < $rounds; $round++) {
            $file = $round % 2 === 0 ? $ours : $theirs;
            for ($i = $random->getInt(1, 3); $i > 0; $i--) {
                $file = $round % 6 === 0 ? Mutations::mutate($file, $random) : Mutations::said($file, $random);
            }
            $is = static fn (): string => (string) $random->getInt(0, 1);
            DB::beginTransaction();
            $before = $this->state();
            $began = hrtime(true);
            $preview = $this->post('/api/v1/exchange/import', ['branch' => $branch, 'update' => $is(), 'branches' => $is(),
                'deleteMissing' => $is(), 'fileWins' => $is(), 'events' => $is(), 'successorCarries' => $is(),
                'file' => UploadedFile::fake()->createWithContent('a', $file)], ['Accept' => 'application/json']);
            $where = "{$format} {$round}: {$preview->getContent()}";
            self::assertContains($preview->status(), [201, 409, 422], substr($where, 0, 2000));
            self::assertSame($before, $this->state(), "{$where}: a preview changes nothing");
            if ($preview->status() === 201) {
                $count['read']++;
                $answer = $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/apply");
                self::assertContains($answer->status(), [200, 409, 422], "{$format} {$round}: {$answer->getContent()}");
                if ($answer->status() === 200) {
                    $count['applied']++;
                    $round % 10 !== 0 || $this->assertResultsAreTrue();
                } else {
                    self::assertSame($before, $this->state(), "{$where}: half an import");
                }
            } else {
                $count['refused']++;
                self::assertNotSame('', (string) $preview->json('detail'), $where);
            }
            self::assertSame([], $logged, $where);
            self::assertLessThan(5e9, hrtime(true) - $began, "{$where} hangs");
            DB::rollBack();
        }
        self::assertGreaterThanOrEqual($rounds / 10, min($count), (string) json_encode($count));
    }

    /** @return array<string, int|string> how much there is, and what it says */
    private function state(): array
    {
        $state = [];
        foreach (['projects', 'wbs_elements', 'activities', 'links', 'branches', 'baselines', 'external_identities', 'code_entries',
            'plan_changes'] as $table) {
            $state[$table] = DB::table($table)->count();
        }

        return $state + ['names' => (string) DB::table('activities')->sum(DB::raw("CRC32(CONCAT(name, ' ', code, ' ', duration))"))];
    }
}
