<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/**
 * Identifiers of objects, unique in the enterprise: 1 … 64 of the characters `A-Z a-z 0-9 . _ : @ -`, compared exactly,
 * and not a whole number (a number as the key of a list is not a text any more). What other systems call their objects
 * may look different; {@see of()} makes a sound uid of any such name, always the same one.
 */
final class Uid
{
    public const RULE = 'must be 1 … 64 letters, digits or . : @ _ - and not a whole number';

    public static function isSound(string $uid): bool
    {
        return preg_match('/^(?!-?\d+$)[A-Za-z0-9._:@-]{1,64}$/D', $uid) === 1;
    }

    /** The text itself where it is sound, else `f-` and 30 hexadecimal digits that depend on nothing but the text. */
    public static function of(string $foreign): string
    {
        return self::isSound($foreign) ? $foreign : 'f-'.substr(hash('sha256', $foreign), 0, 30);
    }
}
