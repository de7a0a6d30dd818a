<?php

declare(strict_types=1);

namespace App\Planning;

use App\Access\Reach;
use App\Models\User;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Remark;

/** Notices for those whom a remark mentions (`@Aino Lind`), as far as they see the project; one for each remark and person. */
final class Notices implements Follower
{
    public function follow(Committed $change): void
    {
        [$plan, $author] = [$change->after, $change->by];
        foreach ($change->operations as $o) {
            $remark = $o->kind === EntityKind::Remark && $o->verb !== Verb::Delete ? $plan->find($o->kind, $o->uid) : null;
            if (! $remark instanceof Remark || ! array_key_exists('text', $o->after ?? []) || ! str_contains($remark->text, '@')) {
                continue;
            }
            $project = DB::table('projects')->where('uid', $remark->project)->first(['id', 'branch_id']);
            if ($project !== null) {
                /** @var object{id: int, branch_id: int} $project */
                self::tell($author, $remark->text, $remark->uid, $remark->activity ?? $remark->wbs
                    ?? $plan->links[$remark->link ?? '']->to ?? $remark->project, $project->branch_id, $project->id);
            }
        }
    }

    /**
     * Once for each remark and person, however often it is said.
     *
     * @param  string  $about  uid of what the remark is about, or of the row that shows it
     * @param  int  $branch  id of the one that it lies on: who sees it may be told
     * @param  int|null  $project  id; null for a remark on the branch itself
     */
    public static function tell(User $author, string $text, string $remark, string $about, int $branch, ?int $project): void
    {
        $people = str_contains($text, '@') ? User::query()->where('active', true)->whereKeyNot($author->id)->get()->all() : [];
        foreach (self::mentioned($text, $people) as $person) {
            if (Reach::of($person)->roleOn($branch) !== null) {
                DB::table('notices')->insertOrIgnore(['user_id' => $person->id, 'author' => $author->name, 'project_id' => $project,
                    'activity' => $about, 'remark' => $remark, 'text' => mb_substr($text, 0, 300), 'created_at' => now()]);
            }
        }
    }

    /**
     * @param  array<array-key, User>  $people
     * @return list<User> whose whole name follows an `@`, the longer of two names that begin alike
     */
    public static function mentioned(string $text, array $people): array
    {
        usort($people, static fn (User $a, User $b): int => mb_strlen($b->name) <=> mb_strlen($a->name));
        $found = [];
        foreach ($people as $person) {
            $name = '/(?<![\p{L}\p{N}])@'.preg_quote($person->name, '/').'(?![\p{L}\p{N}])/iu';
            if (preg_match($name, $text) === 1) {
                $found[] = $person;
                $text = preg_replace($name, '', $text) ?? $text;
            }
        }

        return $found;
    }
}
