<?php

declare(strict_types=1);

namespace Reihe\Formats\Tests;

use Illuminate\Filesystem\Filesystem;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\CoreException;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Schedule\Extract;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Tests\Made;
use Reihe\Core\Tests\RandomPlan;
use Reihe\Formats\Format;
use Reihe\Formats\PlanXml\PlanXmlWriter;
use Reihe\Formats\Report\ScheduleReport;

/** bin/reihe as a person calls it. */
final class CommandTest extends TestCase
{
    /** @var list<string> for PHP; some hundred calls need not be compiled some hundred times */
    private array $flags = [];

    public function test_json_is_what_the_core_computes(): void
    {
        $plan = RandomPlan::make(3, 3, 8);
        [$status, $out] = $this->command(['schedule', '-', '--json'], PlanXmlWriter::write($plan));
        self::assertSame(0, $status);
        $data = json_decode($out, true, flags: JSON_THROW_ON_ERROR);
        self::assertSame(['projects', 'wbs', 'activities', 'links', 'handovers'], array_keys($data));
        self::assertSame(['project', 'code', 'earlyStart', 'earlyFinish', 'lateStart', 'lateFinish', 'totalFloat', 'freeFloat',
            'interferingFloat', 'critical', 'nearCritical', 'percent', 'drivenBy', 'reasons', 'waits'], array_keys($data['activities'][0]));
        $expected = ScheduleReport::data(Schedule::of($plan));
        foreach (['activities', 'links', 'projects', 'wbs', 'handovers'] as $list) {
            sort($expected[$list]);
            sort($data[$list]);
        }
        self::assertEquals($expected, $data);
    }

    /** Any plan, any command: an answer, or a sentence and status 1; 2 would be a fault of ours. */
    public function test_no_plan_makes_a_command_fail(): void
    {
        $folder = sys_get_temp_dir().'/reihe-'.bin2hex(random_bytes(6));
        mkdir("{$folder}/compiled", recursive: true);
        $this->flags = ['-d', 'opcache.enable_cli=1', '-d', 'opcache.file_cache_only=1', '-d', "opcache.file_cache={$folder}/compiled"];
        $tried = [];
        foreach (self::plans() as $n => $plan) {
            $file = "{$folder}/{$n}.plan.xml";
            file_put_contents($file, PlanXmlWriter::write($plan));
            $label = $plan->activities === [] ? 'P/none' : $plan->label((string) array_key_last($plan->activities));
            $calls = [['schedule', $file], ['trace', $file, $label], ['paths', $file, $label], ['health', $file], ['check', $file],
                ['compare', $file, "{$folder}/".max(0, $n - 1).'.plan.xml'], ['diff', $file, $file],
                ['diff', $file, "{$folder}/0.plan.xml"],
                ...array_map(static fn (Format $f): array => ['convert', $file, "{$folder}/out.{$f->suffix()}"],
                    array_filter(Format::cases(),
                        static fn (Format $f): bool => $n < 3 || ($n + array_search($f, Format::cases(), true)) % 4 === 0))];
            foreach ($calls as $call) {
                foreach ($call[0] === 'convert' || $n % 3 !== 0 ? [[]] : [[], ['--json']] as $more) {
                    $answer = $this->command([...$call, ...$more], '');
                    $status = $answer[0];
                    $isMissing = $label === 'P/none' && in_array($call[0], ['trace', 'paths'], true);
                    self::assertContains($status, $isMissing ? [0, 1, 2] : [0, 1], implode(' ', $call)." of plan {$n}: ".implode("\n",
                        $answer));
                    $tried[$call[0]][$status] = true;
                    if ($call[0] === 'diff' && $call[1] === $call[2] && $status === 0) {
                        self::assertContains(trim($answer[1]), ['no difference', '[]']);
                    }
                }
            }
        }
        (new Filesystem)->deleteDirectory($folder);
        self::assertCount(8, array_filter($tried, static fn (array $s): bool => isset($s[0])));
    }

    /** @return list<Plan> random ones, and those in which something ends */
    private static function plans(): array
    {
        $plans = [Made::plan([])];
        for ($seed = 1; $seed <= 3; $seed++) {
            $plans[] = FilledPlan::make($seed);
            $whole = RandomPlan::make($seed + 50, 3, 6, typed: $seed % 2 === 0);
            $plans[] = $whole;
            try {
                $plans[] = Extract::of(Schedule::of($whole), ['p0' => true], ['p0' => true, 'p1' => true]); // with stubs
            } catch (CoreException) { // typed dates may contradict each other
                continue;
            }
        }
        $two = Calendar::read('office', ['key' => 'TWO', 'name' => 'Two days ever', 'week' => [], 'exceptions' => array_map(
            static fn (string $day): array => ['date' => $day, 'periods' => '08:00-16:00', 'name' => ''], ['2026-03-02', '2026-03-03'])]);
        foreach ([['A' => ['finish']], ['A' => ['start']], ['A' => [1]], ['A' => [2]], ['A' => [3]], ['A' => [1], 'B' => ['finish', 'A']],
            ['A' => [1], 'B' => [1, 'A'], 'C' => ['finish', 'B']], ['A' => [1], 'B' => ['start', 'A:SS+1'],
                'H' => ['hammock', 'A:SS B:FF']]] as $rows) {
            $plans[] = Made::plan($rows, calendar: $two);
        }

        return $plans;
    }

    public function test_the_table_shows_dates_and_floats(): void
    {
        [$status, $out] = $this->command(['schedule', '-'], PlanXmlWriter::write(Made::plan(['A' => [1], 'B' => [2, 'A'], 'C' => [1]])));
        self::assertSame(0, $status);
        self::assertMatchesRegularExpression('#^P: 2026-03-02 08:00 … 2026-03-04 17:00$#m', $out);
        self::assertMatchesRegularExpression('#^P/B +2026-03-03 08:00 +2026-03-04 17:00 +2026-03-03 08:00 +2026-03-04 17:00 +0 min +0 '
            .'min +critical +P/A$#m', $out);
        self::assertMatchesRegularExpression('#^P/C .* 960 min +960 min$#m', $out);
    }

    public function test_traces_paths_health_and_comparisons_are_printed(): void
    {
        $plan = PlanXmlWriter::write(Made::plan(['A' => [3], 'B' => [2, 'A+2'], 'C' => [1]]));
        $trace = $this->command(['trace', '-', 'P/B'], $plan)[1];
        self::assertMatchesRegularExpression('#^  P/A +2026-03-02 08:00 … 2026-03-04 17:00  project-start$#m', $trace);
        self::assertMatchesRegularExpression('#^> P/B +2026-03-09 08:00 … 2026-03-10 17:00  P/A, lag 960 min, days-off$#m', $trace);
        self::assertSame(['P/A'], array_column(json_decode($this->command(['trace', '-', 'P/B', '--json'], $plan)[1], true)['drivers'],
            'activity'));
        self::assertSame(" 1. float 0 min: P/A → P/B\n", $this->command(['paths', '-', 'P/B'], $plan)[1]);
        self::assertStringContainsString('missing-successor      2 of 3 (66.7 %), at most 5 %  P/B P/C',
            $this->command(['health', '-'], $plan)[1]);
        self::assertSame(2, $this->command(['trace', '-', 'P/Z'], $plan)[0]);
        $earlier = (string) tempnam(sys_get_temp_dir(), 'plan');
        file_put_contents($earlier, PlanXmlWriter::write(Made::plan(['A' => [2], 'B' => [2, 'A+2'], 'D' => [1]])));
        $compared = $this->command(['compare', '-', $earlier], $plan)[1];
        unlink($earlier);
        self::assertStringContainsString("P: 4 of 4 activities differ\n", $compared);
        self::assertMatchesRegularExpression('#^  A +start \+0, finish \+480, duration \+480 min$#m', $compared);
        self::assertMatchesRegularExpression('#^  C +added$#m', $compared);
        self::assertMatchesRegularExpression('#^  D +removed$#m', $compared);
    }

    public function test_bad_input_and_bad_calls_have_their_status_and_message(): void
    {
        [$status, , $error] = $this->command(['schedule', '-'], "<plan xmlns=\"urn:reihe:plan:1\">\n<oops/></plan>");
        self::assertSame(1, $status);
        self::assertStringContainsString('line 2', $error);
        [$status, $out] = $this->command(['check', '-'], PlanXmlWriter::write(Made::plan(['A' => [1]])));
        self::assertSame([0, "-: fine, 1 projects, 1 activities, 0 links\n"], [$status, $out]);
        self::assertSame(2, $this->command(['schedule', '/nowhere.xml'])[0]);
        self::assertSame(2, $this->command([])[0]);
        self::assertSame(0, $this->command(['--help'])[0]);
    }

    /**
     * @param  list<string>  $arguments
     * @return array{int, string, string} status, output, error output
     */
    private function command(array $arguments, string $input = ''): array
    {
        $process = proc_open([PHP_BINARY, ...$this->flags, dirname(__DIR__, 2).'/bin/reihe', ...$arguments],
            [['pipe', 'r'], ['pipe', 'w'], ['pipe', 'w']], $pipes);
        self::assertNotFalse($process);
        fwrite($pipes[0], $input);
        fclose($pipes[0]);
        $out = (string) stream_get_contents($pipes[1]);
        $error = (string) stream_get_contents($pipes[2]);

        return [proc_close($process), $out, $error];
    }
}
