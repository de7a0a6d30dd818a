<?php

declare(strict_types=1);

namespace App\OData;

/** Rows as JSON (OData JSON Format 4.01, sections 4.5, 7 and 15), with what is related to them. */
final readonly class Answer
{
    public function __construct(private Query $query, private Form $form, private Reader $reader)
    {
    }

    /**
     * @param  list<array<string, mixed>>  $found
     * @return list<array<string, mixed>>
     */
    public function rows(Options $options, array $found): array
    {
        $related = [];
        foreach ($options->expand as $name => $nested) {
            $navigation = $options->set->navigations[$name];
            $related[$name] = $this->related($navigation, $nested, $found);
        }
        $columns = array_map(static fn (Property $p): array => [$p->name, $p->type], $options->select);
        $isPlain = $options->set->isEntities && $this->form->metadata !== 'full';
        $rows = [];
        foreach ($found as $row) {
            $shaped = [];
            if ($isPlain) {
                foreach ($columns as [$name, $type]) {
                    $shaped[$name] = $type->json($row[$name], $this->reader->zone, $this->form->exact);
                }
            } else {
                $shaped = $this->described($options, $row);
            }
            foreach ($related as $name => [$groups, $counts]) {
                $navigation = $options->set->navigations[$name];
                $owner = is_scalar($row[$navigation->ours]) ? (string) $row[$navigation->ours] : '';
                if ($options->expand[$name]->count && $navigation->many) {
                    $shaped["{$name}@odata.count"] = $counts[$owner] ?? 0;
                }
                $shaped[$name] = $navigation->many ? ($groups[$owner] ?? []) : ($groups[$owner][0] ?? null);
            }
            $rows[] = $shaped;
        }

        return $rows;
    }

    public function value(Property $property, mixed $value): mixed
    {
        return $property->type->json($value, $this->reader->zone, $this->form->exact);
    }

    /** `#Activities(Code,Project(Key))` (Protocol 4.01, section 10). */
    public static function context(Options $options, string $end = ''): string
    {
        return url('odata/v4/$metadata').'#'.$options->set->name.self::selected($options).$end;
    }

    private static function selected(Options $options): string
    {
        $parts = $options->isChosen || ! $options->set->isEntities
            ? array_map(static fn (Property $p): string => preg_replace('~/(\w+)$~', '($1)', $p->name) ?? $p->name, $options->select) : [];
        foreach ($options->expand as $name => $nested) {
            $inside = self::selected($nested);
            $parts[] = $name.($inside === '' ? '()' : $inside);
        }

        return $parts === [] ? '' : '('.implode(',', $parts).')';
    }

    /**
     * @param  array<string, mixed>  $row
     * @return array<string, mixed>
     */
    private function described(Options $options, array $row): array
    {
        $isFull = $this->form->metadata === 'full';
        $shaped = [];
        if ($isFull && $options->set->isEntities) {
            $id = is_scalar($row['Id'] ?? null) ? str_replace("'", "''", (string) $row['Id']) : '';
            $self = "{$options->set->name}('".rawurlencode($id)."')";
            $shaped = ['@odata.type' => '#'.Model::NAMESPACE.".{$options->set->type}", '@odata.id' => $self];
            foreach ($options->set->navigations as $n) {
                $shaped["{$n->name}@odata.navigationLink"] = "{$self}/{$n->name}";
            }
        }
        foreach ($options->select as $p) {
            $path = explode('/', $p->name);
            $name = array_pop($path);
            $one = [];
            // what JSON cannot tell: in full always, of what was aggregated unless it is said to leave it out
            if (($isFull || (! $options->set->isEntities && $this->form->metadata === 'minimal'))
                && ! in_array($p->type, [EdmType::Text, EdmType::Bool, EdmType::Ratio], true)) {
                $one["{$name}@odata.type"] = '#'.substr($p->type->edm(), 4);
            }
            $one[$name] = $this->value($p, $row[$p->name]);
            foreach (array_reverse($path) as $step) {
                $one = [$step => $one];
            }
            /** @var array<string, mixed> $shaped */
            $shaped = array_replace_recursive($shaped, $one);
        }

        return $shaped;
    }

    /**
     * @param  list<array<string, mixed>>  $found
     * @return array{array<string, list<array<string, mixed>>>, array<string, int>} our key => related rows, and how many there are
     */
    private function related(Navigation $navigation, Options $nested, array $found): array
    {
        $keys = [];
        foreach ($found as $row) {
            is_scalar($row[$navigation->ours]) && $keys[] = (string) $row[$navigation->ours];
        }
        $groups = $counts = $owners = $rows = [];
        foreach ($this->query->related($navigation, $nested, $keys) as $owner => $group) {
            $counts[$owner] = count($group);
            foreach (array_slice($group, $nested->skip, $nested->top) as $row) {
                $owners[] = $owner;
                $rows[] = $row;
            }
        }
        foreach ($this->rows($nested, $rows) as $i => $row) {
            $groups[$owners[$i]][] = $row;
        }

        return [$groups, $counts];
    }
}
