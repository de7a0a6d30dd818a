<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

/** Components in the way a plan is put together from: without those that are cancelled, relations all in one direction. */
final class Arrangement
{
    /**
     * @param  array<string, Todo>  $todos  by uid
     * @return array{array<string, Todo>, int, int} those that count, how many are cancelled, how many relations lead out
     */
    public static function of(array $todos, bool $successorCarries): array
    {
        [$todos, $cancelled] = self::withoutCancelled($todos);

        return [$todos, $cancelled, self::turn($todos, $successorCarries)];
    }

    /**
     * A cancelled to-do is no work; what is below it goes too.
     *
     * @param  array<string, Todo>  $todos
     * @return array{array<string, Todo>, int}
     */
    private static function withoutCancelled(array $todos): array
    {
        $cancelled = 0;
        $gone = array_filter($todos, static fn (Todo $t): bool => $t->isCancelled());
        while ($gone !== []) {
            $cancelled += count($gone);
            $todos = array_diff_key($todos, $gone);
            $gone = array_filter($todos, static fn (Todo $t): bool => isset($gone[$t->parent() ?? '']));
        }

        return [$todos, $cancelled];
    }

    /**
     * CHILD is PARENT read the other way; DEPENDS-ON names the predecessor (RFC 9253, section 5).
     *
     * @param  array<string, Todo>  $todos
     * @return int relations that lead out of the file
     */
    private static function turn(array $todos, bool $successorCarries): int
    {
        $leadOut = 0;
        foreach ($todos as $todo) {
            $turned = array_filter($todo->relations, static fn (Relation $r): bool => in_array($r->type, ['CHILD', 'DEPENDS-ON'], true));
            if ($turned === []) {
                continue;
            }
            $todo->relations = array_values(array_diff_key($todo->relations, $turned));
            foreach ($turned as $r) {
                $other = $todos[$r->uid] ?? null;
                if ($other === null) {
                    $leadOut++;
                } elseif ($r->type === 'CHILD') {
                    $other->parent() !== null ?: $other->relations[] = new Relation('PARENT', $todo->uid);
                } elseif ($successorCarries) {
                    $todo->relations[] = new Relation('FINISHTOSTART', $r->uid, $r->gap);
                } else {
                    $other->relations[] = new Relation('FINISHTOSTART', $todo->uid, $r->gap);
                }
            }
        }

        return $leadOut;
    }
}
