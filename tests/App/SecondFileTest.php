<?php

declare(strict_types=1);

namespace Tests\App;

use DOMDocument;
use DOMElement;
use DOMXPath;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Illuminate\Testing\TestResponse;
use PHPUnit\Framework\Attributes\DataProvider;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Schedule\Schedule;
use Reihe\Formats\PlanXml\PlanXmlWriter;
use Reihe\Formats\PlanXml\Told;
use Reihe\Formats\Tests\FilledPlan;

/** A second file of a source is compared exactly: every kind of object, every text, what it drops, what it does not tell. */
final class SecondFileTest extends TestCase
{
    private const NOTHING = ['new' => 0, 'changed' => 0, 'missing' => 0, 'conflicting' => 0];

    /** kinds whose elements are called otherwise */
    private const ELEMENTS = ['coding' => 'code', 'ownValue' => 'own'];

    protected function setUp(): void
    {
        parent::setUp();
        $this->actingAs($this->person('ilse'));
    }

    /** @return iterable<string, array{string}> */
    public static function kinds(): iterable
    {
        foreach (EntityKind::inProjects() as $kind) {
            yield $kind->value => [$kind->value];
        }
    }

    #[DataProvider('kinds')]
    public function test_what_a_file_drops_is_missing_and_is_deleted_when_that_is_asked_for(string $kind): void
    {
        $file = self::filled();
        $this->apply($this->import($file));
        self::assertSame(self::NOTHING, $this->states($this->import($file)));
        $before = $this->plan();
        $second = self::edited($file, static function (DOMXPath $x) use ($kind): void {
            $path = $kind === 'wbs' ? '//p:wbs[not(p:activity) and not(p:wbs)]' : '//p:'.(self::ELEMENTS[$kind] ?? $kind);
            $made = iterator_to_array($x->query('//p:pair/@made') ?: []);
            $fits = static fn (mixed $e): bool => $e instanceof DOMElement && match ($kind) {
                'activity' => ! in_array($e->getAttribute('uid'), array_map(static fn ($m): string => (string) $m->nodeValue, $made), true)
                    && $e->getAttribute('kind') !== 'hammock',
                // what spans others needs them
                'link' => ($x->query("//p:activity[@kind='hammock' and contains('".$e->getAttribute('to').' '.$e->getAttribute('from')
                    ."', concat('/', @code))]") ?: [])->length === 0,
                default => true,
            };
            $element = array_values(array_filter(iterator_to_array($x->query($path) ?: []), $fits))[0] ?? null;
            if (! $element instanceof DOMElement) {
                self::fail("there is no {$kind}");
            }
            if ($kind === 'activity') {
                $project = ($x->query('ancestor::p:project', $element) ?: [])[0];
                $label = ($project instanceof DOMElement ? $project->getAttribute('key') : '').'/'.$element->getAttribute('code');
                foreach (iterator_to_array($x->query("//p:link[@from='{$label}' or @to='{$label}']") ?: []) as $link) {
                    $link->parentNode?->removeChild($link);
                }
            }
            $element->parentNode?->removeChild($element);
        });
        $preview = $this->import($second)->assertCreated();
        self::assertSame(0, $preview->json('update.states.new') + $preview->json('update.states.changed'), $kind);
        $missing = $preview->json('update.missing');
        self::assertContains($kind, array_column($missing, 'kind'));
        foreach ($missing as $m) {
            self::assertNotSame('', trim($m['label']), $m['kind']);
        }
        $this->apply($preview);
        $this->assertSamePlan($before, $this->plan()); // only when it is asked for
        $deleting = $this->import($second, ['deleteMissing' => '1'])->assertCreated();
        self::assertGreaterThan(0, $deleting->json('update.states.missing'));
        $this->apply($deleting);
        self::assertSame(self::NOTHING, $this->states($this->import($second)));
        self::assertLessThan(count($before->all(EntityKind::from($kind))), count($this->plan()->all(EntityKind::from($kind))));
        $this->postJson("/api/v1/changes/{$deleting->json('changeSet')}/undo")->assertOk();
        $this->assertSamePlan($before, $this->plan());
        $this->assertResultsAreTrue();
    }

    /** @return iterable<string, array{string, string}> */
    public static function texts(): iterable
    {
        yield '1.1 and 1.10' => ['1.1', '1.10'];
        yield '10 and 010' => ['10', '010'];
        yield '1e1 and 10' => ['1e1', '10'];
        yield 'case' => ['a', 'A'];
        yield 'accent' => ['e', 'é'];
    }

    #[DataProvider('texts')]
    public function test_texts_are_compared_letter_by_letter(string $one, string $other): void
    {
        $texts = ['project' => ['name', 'lead'], 'wbs' => ['code', 'name'], 'activity' => ['code', 'name'], 'remark' => ['text', 'about'],
            'link' => ['note', 'giverOwner'], 'openEnd' => ['name', 'note'], 'own' => ['value']];
        $with = static fn (string $file, string $element, string $attribute, string $text): string => self::edited($file,
            static function (DOMXPath $x) use ($element, $attribute, $text): void {
                $path = $element === 'own' ? "//p:own[@field='TEXT' or @key='TEXT' or contains(@set,'TEXT')]" : "//p:{$element}";
                $found = ($x->query($path) ?: [])[0] ?? ($x->query("//p:{$element}") ?: [])[0] ?? null;
                if ($found instanceof DOMElement) {
                    $key = $x->evaluate('string(ancestor::p:project/@key)', $found);
                    $old = "{$key}/{$found->getAttribute('code')}";
                    $found->setAttribute($attribute, $text);
                    foreach ("{$element}.{$attribute}" === 'activity.code' ? ($x->query("//@*[.='{$old}']") ?: []) : [] as $named) {
                        $named->nodeValue = "{$key}/{$text}"; // links name it
                    }
                }
            });
        $file = self::filled();
        foreach ($texts as $element => $attributes) {
            foreach ($attributes as $attribute) {
                $file = $with($file, $element, $attribute, $one);
            }
        }
        $this->apply($this->import($file)->assertCreated());
        self::assertSame(self::NOTHING, $this->states($this->import($file)));
        foreach ($texts as $element => $attributes) {
            foreach ($attributes as $attribute) {
                DB::beginTransaction();
                $states = $this->states($this->import($with($file, $element, $attribute, $other)));
                DB::rollBack();
                self::assertGreaterThan(0, $states['changed'] + $states['new'], "{$element}.{$attribute}");
            }
        }
    }

    public function test_what_has_no_uid_comes_once(): void
    {
        $bare = self::edited(self::filled(), static function (DOMXPath $x): void {
            foreach ($x->query('//p:remark|//p:openEnd|//p:assignment|//p:link|//p:insertion') ?: [] as $element) {
                foreach ($element instanceof DOMElement ? ['uid', 'answers', 'link'] : [] as $name) { // what is named by a uid goes with it
                    $element->removeAttribute($name);
                }
            }
        });
        $this->apply($this->import($bare));
        $counts = fn (): array => array_map(fn (string $t): int => DB::table($t)->count(), ['remarks', 'open_ends', 'assignments', 'links',
            'insertions', 'codings', 'own_values', 'foreign_contents']);
        $before = $counts();
        self::assertGreaterThan(2, $before[0]);
        self::assertSame(self::NOTHING, $this->states($this->import($bare)));
        $this->apply($this->import($bare));
        self::assertSame($before, $counts());
        // in another order they are the same
        $turned = self::edited($bare, static function (DOMXPath $x): void {
            foreach ($x->query('//p:activity[count(p:remark) > 0]') ?: [] as $activity) {
                $remarks = iterator_to_array($x->query('p:remark', $activity) ?: []);
                foreach (array_slice($remarks, 1) as $remark) {
                    $activity->insertBefore($remark, $activity->firstChild === $remark ? null : $remarks[0]);
                }
            }
        });
        self::assertSame(self::NOTHING, $this->states($this->import($turned)));
    }

    /** Who wrote it and when is filled in where the file is silent, and stays, whatever a later file says. */
    public function test_remarks_without_an_author_come_back(): void
    {
        $without = self::edited(self::filled(), static function (DOMXPath $x): void {
            foreach ($x->query('//p:remark/@author|//p:remark/@written') ?: [] as $attribute) {
                $attribute instanceof \DOMAttr && $attribute->ownerElement?->removeAttributeNode($attribute);
            }
        });
        $this->apply($this->import($without));
        $authors = DB::table('remarks')->pluck('author', 'uid')->all();
        self::assertSame(['Ilse Marbach'], array_values(array_unique($authors)));
        foreach ([$without, self::filled()] as $again) {
            self::assertSame(self::NOTHING, $this->states($this->import($again)));
            $this->apply($this->import($again));
            self::assertSame($authors, DB::table('remarks')->pluck('author', 'uid')->all());
        }
    }

    public function test_a_calendar_of_others_erases_no_codes(): void
    {
        $file = "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\n";
        foreach (['top' => '', 'mid' => 'top', 'leaf' => 'mid', 'other' => 'top'] as $uid => $parent) {
            $file .= "BEGIN:VTODO\r\nUID:{$uid}\r\nSUMMARY:Part {$uid}\r\nDTSTART:20270104T080000\r\nDUE:20270105T170000\r\n"
                .($parent === '' ? '' : "RELATED-TO:{$parent}\r\n")."END:VTODO\r\n";
        }
        $file .= "END:VCALENDAR\r\n";
        $this->apply($this->import($file, [], 'works.ics'));
        $wbs = DB::table('wbs_elements as w')->join('projects as p', 'p.id', '=', 'w.project_id')->where('p.name', 'works')->pluck('w.uid');
        self::assertCount(2, $wbs);
        $this->change([self::update('wbs', (string) $wbs[0], ['code' => 'OURS'])])->assertOk();
        $codes = fn (): array => DB::table('wbs_elements')->whereIn('uid', $wbs)->orderBy('uid')->pluck('code', 'uid')->all();
        $before = $codes();
        foreach ([$file, str_replace('Part top', 'Part of the top', $file)] as $again) {
            $preview = $this->import($again, ['fileWins' => '1'], 'works.ics')->assertCreated();
            self::assertNotContains('code', array_column($preview->json('update.changes'), 'field'));
            $this->apply($preview);
            self::assertSame($before, $codes());
        }
    }

    public function test_the_same_code_under_another_uid_is_matched(): void
    {
        $file = self::filled();
        $this->apply($this->import($file));
        $before = $this->plan();
        $renamed = self::edited($file, static function (DOMXPath $x): void {
            $now = [];
            foreach ($x->query('//p:activity|//p:wbs|//p:link') ?: [] as $n => $element) {
                if ($element instanceof DOMElement) {
                    $now[$element->getAttribute('uid')] = "other-{$n}";
                    $element->setAttribute('uid', "other-{$n}");
                }
            }
            foreach ($x->query('//p:remark/@wbs|//p:remark/@link') ?: [] as $named) {
                $named->nodeValue = $now[$named->nodeValue] ?? $named->nodeValue;
            }
            foreach ($x->query('//p:pair') ?: [] as $pair) {
                $pair->parentNode?->removeChild($pair);
            }
        });
        $preview = $this->import($renamed)->assertCreated();
        self::assertSame([0, 0], [$preview->json('update.states.new'), $preview->json('update.states.missing')],
            json_encode($preview->json('update.missing')) ?: '');
        $this->apply($preview);
        self::assertSame(array_keys($before->activities), array_keys($this->plan()->activities));
        self::assertSame(self::NOTHING, $this->states($this->import($renamed)));
        // and back again
        self::assertSame([0, 0], [$this->import($file)->json('update.states.new'), $this->import($file)->json('update.states.missing')]);
    }

    /** @return iterable<string, array{string, string, bool}> */
    public static function formats(): iterable
    {
        foreach (['plan-xml', 'icalendar', 'xcal', 'jcal'] as $format) {
            foreach (['', 'cost', 'people', 'remarks', 'cost,people,remarks,names'] as $without) {
                foreach (in_array($without, ['', 'remarks'], true) ? [true, false] : [true] as $ours) {
                    yield "{$format} without ".($without === '' ? 'nothing' : $without).($ours ? ', ours' : ', theirs') => [$format,
                        $without, $ours];
                }
            }
        }
    }

    /** What a file does not carry is neither emptied nor missing. */
    #[DataProvider('formats')]
    public function test_our_own_projects_come_back_unchanged_in_every_format(string $format, string $without, bool $ours): void
    {
        $this->apply($this->import(self::filled(), ['branches' => '0']));
        $keys = 'P0,P1,P2';
        $file = (string) $this->get("/api/v1/exchange/export?projects={$keys}&format={$format}".($without === '' ? ''
            : "&without={$without}"))
            ->assertOk()->getContent();
        if (! $ours) {
            $file = (string) preg_replace('/reihe:[0-9a-z-]{10,}/i', 'yard:1', $file);
        }
        $before = $this->plan();
        foreach ([[], ['fileWins' => '1'], ['deleteMissing' => '1', 'fileWins' => '1']] as $wish) {
            $preview = $this->import($file, $wish)->assertCreated();
            self::assertSame(self::NOTHING, $this->states($preview), json_encode([$preview->json('update.changes'),
                $preview->json('update.missing'), $preview->json('counts'), $preview->json('update.conflicts')],
                JSON_UNESCAPED_SLASHES) ?: '');
            $this->apply($preview);
            $this->assertSamePlan($before, $this->plan());
        }
    }

    public function test_an_undo_brings_back_what_the_source_had_said(): void
    {
        $file = static fn (string $name, string $other = 'Second'): string => '<plan xmlns="urn:reihe:plan:1" source="yard:1">'
            .'<calendar key="Y1"><day weekday="1" hours="08:00-16:00"/></calendar><project uid="x:p" key="SUP" name="Supply" calendar="Y1" '
            ."start=\"2027-01-04T08:00\"><activity uid=\"x:a\" code=\"A\" name=\"{$name}\" duration=\"480\"/>"
            ."<activity uid=\"x:b\" code=\"B\" name=\"{$other}\" duration=\"480\"/></project></plan>";
        $this->apply($this->import($file('First')));
        $uid = (string) DB::table('activities')->where('code', 'A')->where('name', 'First')->value('uid');
        $this->change([self::update('activity', $uid, ['name' => 'Ours'])])->assertOk();
        $conflict = fn (): array => array_map(static fn (array $c): array => [$c['last'], $c['before'], $c['after']],
            $this->import($file('Theirs', 'Other'))->json('update.conflicts'));
        $open = [['First', 'Ours', 'Theirs']];
        self::assertSame($open, $conflict());
        // ours stays: it is open, and shown again the next time
        $applied = $this->import($file('Theirs', 'Other'));
        $this->apply($applied);
        self::assertSame($open, $conflict());
        $undone = $this->postJson("/api/v1/changes/{$applied->json('changeSet')}/undo")->assertOk()->json('changeSet');
        self::assertSame($open, $conflict());
        self::assertSame(['new' => 0, 'changed' => 1, 'missing' => 0, 'conflicting' => 1],
            $this->states($this->import($file('Theirs', 'Other'))));
        // the file wins; undone, and it would win again; done again, there is nothing left of it
        $wins = $this->import($file('Theirs', 'Other'), ['fileWins' => '1']);
        $this->apply($wins);
        self::assertSame(['Theirs', []], [DB::table('activities')->where('uid', $uid)->value('name'), $conflict()]);
        $undo = $this->postJson("/api/v1/changes/{$wins->json('changeSet')}/undo")->assertOk()->json('changeSet');
        self::assertSame($open, $conflict());
        $this->postJson("/api/v1/changes/{$undo}/undo")->assertOk();
        self::assertSame(self::NOTHING, $this->states($this->import($file('Theirs', 'Other'))));
        $this->postJson("/api/v1/changes/{$undone}/undo"); // whatever it answers, nothing that was told is lost
        self::assertSame(0, $this->states($this->import($file('Theirs', 'Other')))['new']);
        // of a file that was taken back as a whole nothing is known
        $first = $this->import(str_replace(['x:', 'yard:1', 'SUP'], ['y:', 'yard:2', 'SUP9'], $file('First')));
        $this->apply($first);
        $this->postJson("/api/v1/changes/{$first->json('changeSet')}/undo")->assertOk();
        self::assertCount(1, $this->import(str_replace(['x:', 'yard:1', 'SUP'], ['y:', 'yard:2', 'SUP9'], $file('First')))
            ->json('projects'));
    }

    private static function filled(): string
    {
        $plan = FilledPlan::make(4);

        // what rests is not updated
        return str_replace(' archived="true"', '', PlanXmlWriter::write($plan, new Told(13_000_000, 'filled', Schedule::of($plan))));
    }

    /** @param  callable(DOMXPath): void  $edit */
    private static function edited(string $file, callable $edit): string
    {
        $document = new DOMDocument;
        $document->loadXML($file);
        $xpath = new DOMXPath($document);
        $xpath->registerNamespace('p', 'urn:reihe:plan:1');
        $edit($xpath);

        return (string) $document->saveXML();
    }

    /** @return array<string, int> */
    private function states(TestResponse $preview): array
    {
        self::assertSame(201, $preview->status(), (string) $preview->getContent());

        return array_intersect_key($preview->json('update.states'), self::NOTHING);
    }

    /** @param  array<string, string>  $wish */
    private function import(string $content, array $wish = [], string $name = 'x.xml'): TestResponse
    {
        return $this->post('/api/v1/exchange/import', $wish + ['update' => '1', 'branch' => $this->branch('Archive'),
            'file' => UploadedFile::fake()->createWithContent($name, $content)], ['Accept' => 'application/json']);
    }

    private function apply(TestResponse $preview): void
    {
        self::assertSame(201, $preview->status(), (string) $preview->getContent());
        $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/apply")->assertOk();
    }
}
