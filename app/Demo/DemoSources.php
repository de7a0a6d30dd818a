<?php

declare(strict_types=1);

namespace App\Demo;

use App\Models\User;
use App\Planning\ChangeRequest;
use App\Planning\Planning;
use App\Planning\PlanStore;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\Operation;
use Reihe\Core\Copying\Copy;
use Reihe\Core\Copying\CopyWish;
use Reihe\Core\Copying\Extract;
use Reihe\Core\Copying\FragmentDocument;
use Reihe\Core\Copying\Insert;
use Reihe\Core\Copying\InsertWish;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\Plan;

/** A template and four fragments of the standard demo, made of its projects, one fragment put into another project. */
final class DemoSources
{
    private const PARTS = ['activities', 'codes', 'work', 'costs'];

    /** key => name, project, WBS element, branch */
    private const FRAGMENTS = [
        'F-TRIAL' => ['Sea trials', 'prj-TERN', 'wbs-tern-tr', 'Fleet'],
        'F-ZONE' => ['Zone fit-out', 'prj-PLOV', 'wbs-plov-el-z01', 'Vessel conversions'],
        'F-CHARGER' => ['Charger commissioning', 'prj-OSTV', 'wbs-ostv-cm', 'Harbours'],
        'F-COURSE' => ['Simulator course', 'prj-CREW', 'wbs-crew-si', 'People and operations'],
    ];

    public static function make(User $admin): void
    {
        $planning = new Planning($admin);
        $template = Copy::of(self::plan('prj-GANN'), new CopyWish(['prj-GANN' => ['key' => 'T-VESSEL', 'name' => 'Vessel conversion']],
            DemoEnterprise::branch('Fleet'), 'demo-template', null, Kept::Template, self::PARTS));
        $planning->commit(new ChangeRequest($template->operations, source: 'demo', reason: 'template'));
        foreach (self::FRAGMENTS as $key => [$name, $project, $wbs, $branch]) {
            $copy = Copy::of(Extract::of(self::plan($project), $project, [$wbs], []),
                new CopyWish([$project => ['key' => $key, 'name' => $name]],
                    DemoEnterprise::branch($branch), "demo-{$key}", null, Kept::Fragment, self::PARTS));
            $planning->commit(new ChangeRequest(array_values(array_filter($copy->operations, static fn (Operation $o): bool => $o->kind
                !== EntityKind::Coding || ($o->after['activity'] ?? null) !== null)), source: 'demo', reason: "fragment {$key}"));
            $uid = $copy->made[$project];
            $plan = self::plan($uid);
            DB::table('fragment_versions')->insert(['fragment' => $uid, 'number' => 1, 'note' => 'First version', 'author_id' => $admin->id,
                'objects' => json_encode(FragmentDocument::of($plan, $uid), JSON_THROW_ON_ERROR), 'created_at' => now()]);
            if ($key === 'F-ZONE') {
                $insert = Insert::of(self::plan('prj-GANN'), $plan, $uid, new InsertWish('prj-GANN', 'wbs-gann-pr', 'GANN-PR-',
                    'demo-put', 1));
                $planning->commit(new ChangeRequest($insert->operations, source: 'demo', reason: "{$name} into GANN"));
            }
        }
    }

    private static function plan(string $project): Plan
    {
        $id = DB::table('projects')->where('uid', $project)->value('id');

        return PlanStore::load([is_int($id) ? $id : 0])[0];
    }
}
