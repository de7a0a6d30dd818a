<?php

declare(strict_types=1);

namespace Reihe\Core\Selection;

/** What a column of rows holds, which decides the operators that go with it. */
enum ValueKind: string
{
    case Text = 'text';

    /** minutes, minor units or thousandths of a percent; typed in days, hours, whole units or percent ({@see Column::$scale}) */
    case Number = 'number';

    /** minutes since 2000-01-01 */
    case Moment = 'moment';

    case Flag = 'flag';

    /** one of a few words */
    case Choice = 'choice';

    /** uids of entries of a code set, or of a branch: any number of them, each in a tree */
    case Tree = 'tree';

    /** @return list<Operator> */
    public function operators(): array
    {
        $compare = [Operator::Is, Operator::Less, Operator::AtMost, Operator::More, Operator::AtLeast, Operator::Empty];

        return match ($this) {
            self::Text => [Operator::Is, Operator::Contains, Operator::Begins, Operator::Empty],
            self::Number => $compare,
            self::Moment => [...$compare, Operator::Next, Operator::Last],
            self::Flag => [Operator::Is],
            self::Choice, self::Tree => [Operator::Is, Operator::Empty],
        };
    }
}
