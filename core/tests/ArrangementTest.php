<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\TestCase;
use Reihe\Core\Schedule\RolledUp;
use Reihe\Core\Selection\Arrangement;
use Reihe\Core\Selection\Column;
use Reihe\Core\Selection\Row;
use Reihe\Core\Selection\ValueKind;
use Reihe\Core\Selection\View;

/** Order within text: as people count, common practice without source. */
final class ArrangementTest extends TestCase
{
    public function test_numbers_in_text_are_sorted_as_numbers(): void
    {
        $texts = ['P10', 'p9', 'P9-2', 'P9-10', 'P009', 'Q1', '', '10', '9', 'Åse 2', 'Åse 11', 'P18446744073709551617',
            'P18446744073709551616'];
        $sorted = ['9', '10', 'p9', 'P009', 'P9-2', 'P9-10', 'P10', 'P18446744073709551616', 'P18446744073709551617', 'Q1', 'Åse 2',
            'Åse 11', ''];
        $columns = ['code' => new Column('code', ValueKind::Text)];
        $rows = array_map(static fn (string $text, int $n): Row => new Row("r{$n}", ['code' => $text], new RolledUp), $texts,
            array_keys($texts));
        $of = static fn (string $sort): array => array_map(static fn (string $uid): string => $texts[(int) substr($uid, 1)],
            Arrangement::of($rows, $columns, View::read(['sort' => [$sort]], $columns))->uids());
        self::assertSame($sorted, $of('code'));
        // downwards the same, what says nothing last; what is the same stays in its order
        self::assertSame(['Åse 11', 'Åse 2', 'Q1'], array_slice($of('-code'), 0, 3));
        self::assertSame('', $of('-code')[12]);
        $bands = Arrangement::of($rows, $columns, View::read(['group' => ['code']], $columns))->bands;
        self::assertSame(['9', '10', 'p9', 'P009', 'P9-2', 'P9-10', 'P10'], array_slice(array_column($bands, 'value'), 0, 7));
    }
}
