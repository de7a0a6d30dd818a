<?php

declare(strict_types=1);

namespace Reihe\Formats\PlanXml;

use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\Uid;
use Reihe\Formats\Text;

/** The uids of a file: sound ones, each once, with the place of their element and what the file really says. */
final class Uids
{
    /** @var array<string, int> uid => ordinal of its element */
    public array $ordinals = [];

    /** @var array<string, string> uid => what the file says for it, of everything that has one there */
    public array $given = [];

    /**
     * @param  array<string, string>  $a  attributes of the element
     * @param  string  $else  what to call it when it has none
     */
    public function of(int $ordinal, array $a, string $else): string
    {
        $uid = Uid::of($a['uid'] ?? $else);
        if (isset($this->ordinals[$uid])) {
            throw new InvalidField('uid', Text::short($a['uid'] ?? $else).' is given twice');
        }
        $this->ordinals[$uid] = $ordinal;
        if (isset($a['uid'])) {
            $this->given[$uid] = $a['uid'];
        }

        return $uid;
    }
}
