<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\Calendar\Calendar;

/**
 * Kinds of objects in a plan, in the order in which they must be created, and the catalogue of what each kind is.
 * Applying, cascades, touched projects, access, revisions and storing read the catalogue; nobody lists kinds by hand.
 */
enum EntityKind: string
{
    case Calendar = 'calendar';
    case Branch = 'branch';
    case CodeSet = 'codeSet';
    case Entry = 'entry';

    case OwnField = 'ownField';
    case LevelScheme = 'levelScheme';
    case LevelCode = 'levelCode';
    case Resource = 'resource';

    case Project = 'project';
    case Wbs = 'wbs';
    case Activity = 'activity';
    case Assignment = 'assignment';
    case Link = 'link';
    case Remark = 'remark';
    case Coding = 'coding';
    case OwnValue = 'ownValue';
    case OpenEnd = 'openEnd';
    case Insertion = 'insertion';
    case Foreign = 'foreign';

    /** among {@see KindEntry::$alike}: the code set of an entry, or the entry where the set gives several to one */
    public const ONCE = 'once';

    public function entry(): KindEntry
    {
        /** @var array<string, KindEntry> $catalogue */
        static $catalogue = [];

        return $catalogue[$this->value] ??= $this->makeEntry();
    }

    public static function of(Entity $object): self
    {
        foreach (self::cases() as $kind) {
            if ($object instanceof ($kind->entry()->class)) {
                return $kind;
            }
        }
        throw new \LogicException($object::class.' is no kind');
    }

    /** @param  array<string, mixed>  $fields */
    public function read(string $uid, array $fields): Entity
    {
        return $this->entry()->class::read($uid, $fields);
    }

    /** @return array<string, Field> of the written form, those of parts in their place */
    public function fields(): array
    {
        return Catalogue::flat($this->entry()->class);
    }

    /**
     * The written form without what is as it would be anyway.
     *
     * @param  array<string, mixed>  $fields
     * @return array<string, mixed>
     */
    public function brief(array $fields): array
    {
        $described = $this->fields();
        $brief = []; // a new list: one that things are taken from keeps its size
        foreach ($fields as $name => $value) {
            $field = $described[$name] ?? null;
            if ($field === null || $value !== $field->type->written($field->default) || ($field->default === null && ! $field->nullable)) {
                $brief[$name] = $value;
            }
        }

        return $brief;
    }

    /**
     * The other way round: with everything that was left out.
     *
     * @param  array<string, mixed>  $fields
     * @return array<string, mixed>
     */
    public function complete(array $fields): array
    {
        foreach ($this->fields() as $name => $field) {
            if (! array_key_exists($name, $fields) && ($field->default !== null || $field->nullable)) {
                $fields[$name] = $field->type->written($field->default);
            }
        }

        return $fields;
    }

    /** @return list<self> kinds of what is in a project */
    public static function inProjects(): array
    {
        return array_values(array_filter(self::cases(), static fn (self $kind): bool => $kind !== self::Project
            && $kind->entry()->owner === Owner::Project));
    }

    /** @return list<self> of these, what copies and fragments may have */
    public static function copied(): array
    {
        return array_values(array_filter(self::inProjects(), static fn (self $kind): bool => $kind->entry()->part !== CopyPart::Never));
    }

    /**
     * What it is without something that an export leaves out.
     *
     * @param  list<Tells>  $without
     * @return array<string, mixed>|null fields as they are then; null where nothing is left of it
     */
    public function silenced(array $without): ?array
    {
        $empty = [];
        foreach ($this->fields() as $name => $field) {
            if (in_array($field->tells, $without, true)) {
                if ($field->isRequired()) {
                    return null;
                }
                $empty[$name] = $field->empty();
            }
        }

        return $empty;
    }

    /** @return list<self> kinds that an activity has: they go along with it and belong to its project */
    public static function standingOnActivities(): array
    {
        return array_values(array_filter(self::inProjects(), static fn (self $kind): bool => $kind !== self::Link
            && $kind->entry()->ownedThrough?->to === self::Activity));
    }

    /**
     * Does one of what may stand on a project or on something in it stand on the project itself? Where its rows go elsewhere, it stays.
     *
     * @param  array<string, mixed>  $fields
     */
    public function isOnProjectItself(array $fields): bool
    {
        $on = array_filter($this->entry()->references, fn (Reference $r): bool => $r->to->entry()->owner === Owner::Project
            && $r->to !== self::Project && $r->to !== $this);

        return ! in_array($this, [self::Wbs, self::Activity], true) && $on !== [] && array_key_exists('project', $this->fields())
            && array_filter($on, static fn (Reference $r): bool => ($fields[$r->field] ?? null) !== null) === [];
    }

    /** @return list<string> the values, for sentences */
    public static function names(): array
    {
        return array_map(static fn (self $kind): string => $kind->value, self::cases());
    }

    private function makeEntry(): KindEntry
    {
        return match ($this) {
            self::Calendar => KindEntry::of(Calendar::class, 'calendars', Owner::Enterprise, null, ['key'], 'calendar', shapesDates: true),
            self::CodeSet => KindEntry::of(CodeSet::class, 'codeSets', Owner::Enterprise, null, ['scope', 'key'], 'code set',
                bindsUsers: ['scope', 'multiple']),
            self::Entry => KindEntry::of(CodeEntry::class, 'entries', Owner::Enterprise, null, ['codeSet', 'key'], 'entry',
                bindsUsers: ['codeSet']),
            self::Branch => KindEntry::of(Branch::class, 'branches', Owner::Enterprise, null, ['parent', 'name'], 'branch'),
            self::OwnField => KindEntry::of(OwnField::class, 'ownFields', Owner::Enterprise, null, ['scope', 'key'], 'own field',
                bindsUsers: ['scope', 'type', 'choices', 'formula']),
            self::LevelScheme => KindEntry::of(LevelScheme::class, 'levelSchemes', Owner::Enterprise, null, ['key'], 'level scheme'),
            self::LevelCode => KindEntry::of(LevelCode::class, 'levelCodes', Owner::Enterprise, null, [], 'level code'),
            self::Resource => KindEntry::of(Resource::class, 'resources', Owner::Enterprise, null, ['key'], 'resource',
                bindsUsers: ['kind']),
            self::Project => KindEntry::of(Project::class, 'projects', Owner::Project, null, ['key'], 'project', alike: []),
            self::Wbs => KindEntry::of(WbsElement::class, 'wbs', Owner::Project, 'project', [], 'WBS element', alike: []),
            self::Activity => KindEntry::of(Activity::class, 'activities', Owner::Project, 'project', ['project', 'code'], 'activity',
                alike: [],
                part: CopyPart::Activities),
            self::Assignment => KindEntry::of(Assignment::class, 'assignments', Owner::Project, 'activity', [], 'assignment',
                alike: ['activity', 'resource']),
            // a link belongs to the project of its successor
            self::Link => KindEntry::of(Link::class, 'links', Owner::Project, 'to', ['from', 'to', 'type'], 'link',
                alike: ['from', 'to', 'type']),
            self::Remark => KindEntry::of(Remark::class, 'remarks', Owner::Project, 'project', [], 'remark',
                alike: ['project', 'wbs', 'activity', 'link', 'text', 'author', 'written'], part: CopyPart::Remarks,
                called: ['text']),
            self::Coding => KindEntry::of(Coding::class, 'codings', Owner::Project, 'project', [], 'coding',
                alike: ['project', 'activity', self::ONCE], part: CopyPart::Codes),
            self::OwnValue => KindEntry::of(OwnValue::class, 'ownValues', Owner::Project, 'project', [], 'value',
                alike: ['project', 'activity', 'field'], part: CopyPart::OwnValues,
                called: ['value']),
            self::OpenEnd => KindEntry::of(OpenEnd::class, 'openEnds', Owner::Project, 'activity', [], 'open end',
                alike: ['activity', 'side', 'type', 'label', 'name'], called: ['label', 'name']),
            self::Foreign => KindEntry::of(Foreign::class, 'foreignContents', Owner::Project, 'project', [], 'foreign content',
                alike: ['project', 'wbs', 'activity', 'format'], part: CopyPart::Never),
            self::Insertion => KindEntry::of(Insertion::class, 'insertions', Owner::Project, 'project', [], 'insertion',
                alike: ['project', 'fragment', 'prefix'], part: CopyPart::Never),
        };
    }
}
