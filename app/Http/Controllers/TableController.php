<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Planning\Connected;
use App\Planning\PlanStore;
use App\Portfolio\SavedFilter;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Illuminate\Validation\Rule;
use Illuminate\Validation\ValidationException;
use Reihe\Formats\Outline\Opml;
use Reihe\Formats\Outline\PlanOutline;
use Reihe\Formats\Table\PlanTable;
use Reihe\Formats\Table\Sheet;
use Reihe\Formats\Table\TableReader;

/** Tables out, with the columns that were asked for; tables in as text, which is pasted like any other. */
final class TableController
{
    private const TYPES = ['xlsx' => 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
        'ods' => 'application/vnd.oasis.opendocument.spreadsheet', 'csv' => 'text/csv; charset=utf-8'];

    public function __construct(private readonly Reach $reach)
    {
    }

    public function export(Request $request): Response
    {
        /** @var array{projects: string, view?: string, format: 'xlsx'|'ods'|'csv', columns: string, rows?: string,
         *     durations?: string} $input */
        $input = $request->validate(['projects' => 'required|string', 'view' => 'string|max:64',
            'format' => ['required', Rule::in(array_keys(self::TYPES))], 'columns' => 'required|string|max:4000',
            'rows' => [Rule::in(['activities', 'all'])], 'durations' => [Rule::in(['days', 'hours', 'text'])]]);
        $keys = array_values(array_unique(explode(',', $input['projects'])));
        $found = $this->reach->limit(DB::table('projects'))->whereIn('key', $keys)->get(['id', 'uid', 'key'])->keyBy('key');
        if ($found->count() !== count($keys)) {
            throw ValidationException::withMessages(['projects' => 'One of these projects does not exist or you have no access to it.']);
        }
        $projects = [];
        foreach ($keys as $key) { // in the order in which they were asked for
            /** @var object{uid: string, id: int} $project */
            $project = $found[$key];
            $projects[$project->uid] = $project->id;
        }
        $columns = array_values(array_unique(explode(',', $input['columns'])));
        [$plan] = PlanStore::load([]);
        foreach ($columns as $column) {
            if (! PlanTable::has($column, $plan)) {
                throw ValidationException::withMessages(['columns' => "There is no column “{$column}”."]);
            }
        }
        $wanted = null;
        if (isset($input['view'])) {
            /** @var list<string> $uids */
            $uids = DB::table('activities as a')->join('projects as p', 'p.id', '=', 'a.project_id')
                ->whereRaw(SavedFilter::named($input['view'], $this->reach)->onActivities())
                ->whereIn('p.id', array_values($projects))->pluck('a.uid')->all();
            $wanted = array_fill_keys($uids, true);
        }
        $name = count($keys) === 1 ? Str::lower($keys[0]) : 'reihe-'.count($keys).'-projects';

        return new Response(PlanTable::write(Connected::with(array_values($projects))->schedule, array_keys($projects), $columns,
            ($input['rows'] ?? 'activities') === 'all', $input['durations'] ?? 'days', $input['format'], $this->reach->sees(...), $wanted),
            200, ['Content-Type' => self::TYPES[$input['format']],
                'Content-Disposition' => "attachment; filename=\"{$name}.{$input['format']}\""]);
    }

    public function sheets(Request $request): JsonResponse
    {
        $request->validate(['file' => 'required|file|max:'.config()->integer('reihe.import_limit') * 1024]);
        $file = $request->file('file');
        assert($file instanceof UploadedFile);
        $content = (string) $file->get();
        $sheets = preg_match('/<opml[\s>]/i', substr($content, 0, 2000)) === 1 ? [PlanOutline::sheet(Opml::read($content))]
            : TableReader::read($content, $file->getClientOriginalName());

        return new JsonResponse(['sheets' => array_map(static fn (Sheet $s): array => ['name' => $s->name, 'rows' => count($s->rows),
            'text' => $s->text()], $sheets)]);
    }
}
