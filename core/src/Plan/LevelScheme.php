<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** How the WBS of some projects is structured, and how codes and names are put together from it. */
final readonly class LevelScheme implements Entity
{
    use Described;

    /**
     * @param  list<WbsLevel>  $levels  the outermost first
     * @param  list<Segment>  $activityCode
     * @param  list<Segment>  $activityName
     */
    public function __construct(
        public string $uid,
        #[Field(FieldType::Code, 'Short key, unique.', max: 40)]
        public string $key,
        #[Field(FieldType::Title, 'Name.', max: 120)]
        public string $name,
        #[Field(FieldType::Items, 'Its levels, the outermost first; what lies deeper is free.', of: WbsLevel::class)]
        public array $levels = [],
        #[Field(FieldType::Items, 'What activity codes are put together from.', of: Segment::class)]
        public array $activityCode = [],
        #[Field(FieldType::Items, 'What names of activities are put together from; nothing where names are typed.', of: Segment::class)]
        public array $activityName = [],
    ) {
        CodeEntry::checkKey($key);
        if (count($levels) > WbsLevel::MOST) {
            throw new InvalidField('levels', 'are at most '.WbsLevel::MOST);
        }
        foreach ([...$activityCode, ...$activityName] as $segment) {
            if ($segment->kind === SegmentKind::Level && $segment->level > max(1, count($levels))) {
                throw new InvalidField('activityCode', "names level {$segment->level}, which there is not");
            }
        }
        foreach ($activityName as $segment) {
            if ($segment->kind === SegmentKind::Counter) {
                throw new InvalidField('activityName', 'takes no counter');
            }
        }
    }
}
