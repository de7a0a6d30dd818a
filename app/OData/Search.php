<?php

declare(strict_types=1);

namespace App\OData;

/**
 * `$search` (URL Conventions 4.01, section 5.1.7): words and “phrases” that some text of a row has, case and accents aside, with AND,
 * OR and NOT; words beside each other are joined with AND.
 */
final class Search
{
    private const MOST = 20;

    /** @var list<array{string, string}> kind and text */
    private array $tokens = [];

    private int $at = 0;

    /** @var array<array-key, mixed> */
    private readonly array $tree;

    public function __construct(private readonly EntitySet $set, string $text)
    {
        preg_match_all('/"((?:[^"\\\\]|\\\\.)*)"|([()])|([^\s()"]+)|(")/su', $text, $found, PREG_SET_ORDER);
        foreach ($found as $m) {
            $this->tokens[] = match (true) {
                isset($m[4]) => throw self::error('a phrase is not closed'),
                isset($m[3]) => in_array($m[3], ['AND', 'OR', 'NOT'], true) ? [$m[3], ''] : ['word', $m[3]],
                ($m[2] ?? '') !== '' => [$m[2], ''],
                default => ['word', stripslashes($m[1] ?? '')],
            };
        }
        if (count($this->tokens) > 3 * self::MOST) {
            throw self::error('more than '.self::MOST.' words');
        }
        $this->tree = $this->or();
        if ($this->at < count($this->tokens)) {
            throw self::error('a parenthesis is closed that is not open');
        }
    }

    /** @param  string  $row  name of the row in SQL */
    public function sql(Sql $sql, string $row): string
    {
        $texts = [];
        foreach ($this->set->properties as $p) {
            if ($p->type === EdmType::Text && ! $p->isUid) {
                $texts[] = "{$row}.`{$p->name}`";
            }
        }

        return $this->written($this->tree, $sql, $texts === [] ? "''" : "CONCAT_WS('\n', ".implode(', ', $texts).')');
    }

    /** @param  array<array-key, mixed>  $tree */
    private function written(array $tree, Sql $sql, string $text): string
    {
        [$kind, $first, $second] = [...array_values($tree), null, null];
        if ($kind === 'word') {
            $like = addcslashes(is_string($first) ? $first : '', '%_\\');

            return "({$text} COLLATE utf8mb4_unicode_ci LIKE {$sql->bind("%{$like}%")})";
        }
        $left = $this->written(is_array($first) ? $first : [], $sql, $text);

        return $kind === 'NOT' ? "(NOT {$left})"
            : "({$left} ".(is_string($kind) ? $kind : 'AND').' '.$this->written(is_array($second) ? $second : [], $sql, $text).')';
    }

    /** @return array<array-key, mixed> */
    private function or(): array
    {
        $tree = $this->and();
        while ($this->take('OR')) {
            $tree = ['OR', $tree, $this->and()];
        }

        return $tree;
    }

    /** @return array<array-key, mixed> */
    private function and(): array
    {
        $tree = $this->one();
        while ($this->take('AND') || in_array($this->tokens[$this->at][0] ?? '', ['word', 'NOT', '('], true)) {
            $tree = ['AND', $tree, $this->one()];
        }

        return $tree;
    }

    /** @return array<array-key, mixed> */
    private function one(): array
    {
        if ($this->take('NOT')) {
            return ['NOT', $this->one()];
        }
        if ($this->take('(')) {
            $tree = $this->or();

            return $this->take(')') ? $tree : throw self::error('a parenthesis is not closed');
        }
        $token = $this->tokens[$this->at] ?? throw self::error('a word is missing');

        return $this->take('word') ? $token : throw self::error('a word is missing');
    }

    private function take(string $kind): bool
    {
        if (($this->tokens[$this->at][0] ?? '') !== $kind) {
            return false;
        }
        $this->at++;

        return true;
    }

    private static function error(string $why): ODataError
    {
        return new ODataError(400, "\$search: {$why}.", '$search');
    }
}
