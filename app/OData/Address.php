<?php

declare(strict_types=1);

namespace App\OData;

use App\OData\Expression\Comparison;
use App\OData\Expression\Literal;
use App\OData\Expression\Member;
use App\OData\Expression\Node;
use App\OData\Expression\Path;

/**
 * What a path leads to (URL Conventions 4.01, section 4): a set, a row, a property of it, its value, a count. Keys as `Set('key')`,
 * `Set(Id='key')` and `Set/key` (section 4.3.6).
 */
final readonly class Address
{
    /**
     * @param  Node|null  $where  rows of the set that are meant; all where it is null
     * @param  string  $canonical  address of the row or set
     * @param  bool  $mayBeNone  a relation to one that may lead nowhere
     */
    private function __construct(public EntitySet $set, public ?Node $where, public bool $isOne, public string $canonical,
        public ?Property $property = null, public bool $isValue = false, public bool $isCount = false, public bool $mayBeNone = false)
    {
    }

    /** @throws ODataError */
    public static function of(string $path, Query $query): self
    {
        $segments = self::segments($path);
        [$name, $key] = self::named(array_shift($segments) ?? '');
        $set = Model::set($name);
        $at = new self($set, null, false, $name);
        $at = $key === null ? $at : $at->row($key);
        while (($segment = array_shift($segments)) !== null) {
            if (count($segments) > 20) {
                throw new ODataError(400, 'This address has too many parts.');
            }
            $at = $at->next($segment, $query);
        }

        return $at;
    }

    private function next(string $segment, Query $query): self
    {
        if ($this->isCount || $this->isValue) {
            throw new ODataError(404, "Nothing comes after it: “{$segment}”.");
        }
        if ($segment === '$count' && ! $this->isOne) {
            return new self($this->set, $this->where, false, $this->canonical, isCount: true);
        }
        if ($segment === '$value' && $this->property !== null) {
            return new self($this->set, $this->where, true, $this->canonical, $this->property, true);
        }
        if (str_starts_with($segment, '$') || str_starts_with($segment, '@')) {
            throw new ODataError(501, "“{$segment}” is not supported here.");
        }
        if ($this->property !== null) {
            throw new ODataError(404, "Nothing comes after it: “{$segment}”.");
        }
        if (! $this->isOne) {
            return $this->row(rawurldecode($segment));
        }
        [$name, $key] = self::named($segment);
        if ($key === null && isset($this->set->properties[$name])) {
            return new self($this->set, $this->where, true, $this->canonical, $this->set->properties[$name]);
        }
        $navigation = $this->set->navigations[$name]
            ?? throw new ODataError(404, "{$this->set->name} has no property or relation “{$name}”.", $name);
        [$rows] = $query->page(Options::read($this->set, ['$select' => $navigation->ours]), 1, $this->where);
        $ours = ($rows[0] ?? throw $this->missing())[$navigation->ours] ?? null;
        $target = Model::set($navigation->target);
        $where = self::equal($target, $navigation->theirs, is_scalar($ours) ? (string) $ours : null);
        $next = new self($target, $where, ! $navigation->many, "{$this->canonical}/{$name}", mayBeNone: ! $navigation->many);

        return $key === null ? $next : $next->row($key);
    }

    public function missing(): ODataError
    {
        return new ODataError(404, "There is no such {$this->set->type}.");
    }

    private function row(string $key): self
    {
        $own = self::equal($this->set, 'Id', $key);

        return new self($this->set, $this->where === null ? $own : new Expression\Logic('and', 1, $this->where, $own), true,
            "{$this->set->name}('".str_replace("'", "''", $key)."')");
    }

    private static function equal(EntitySet $set, string $property, ?string $value): Node
    {
        return new Comparison('eq', new Member(new Path('r'), $set->property($property), 1),
            new Literal($value === null ? null : EdmType::Text, 1, $value));
    }

    /** @return array{string, string|null} name and key */
    private static function named(string $segment): array
    {
        if (preg_match("/^(\\w+)(?:\\((?:\\s*Id\\s*=\\s*)?'((?:[^']|'')*)'\\s*\\))?$/D", $segment, $m) !== 1) {
            throw str_starts_with($segment, '$') ? new ODataError(501, "“{$segment}” is not supported.")
                : new ODataError(404, "There is nothing at “{$segment}”.");
        }

        return [$m[1], isset($m[2]) ? str_replace("''", "'", $m[2]) : null];
    }

    /** @return list<string> parts between slashes, outside quotes */
    private static function segments(string $path): array
    {
        preg_match_all("~(?:'(?:[^']|'')*'|[^/'])+~", $path, $m);

        return $m[0];
    }
}
