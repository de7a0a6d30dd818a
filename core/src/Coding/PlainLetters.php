<?php

declare(strict_types=1);

namespace Reihe\Core\Coding;

/** Names in capital letters without marks, for keys. */
final class PlainLetters
{
    private const LETTERS = ['ø' => 'o', 'æ' => 'ae', 'å' => 'a', 'ß' => 'ss', 'ł' => 'l', 'đ' => 'd', 'ð' => 'd', 'þ' => 'th',
        'œ' => 'oe', 'ı' => 'i'];

    /** `Fjærå` → `FJAERA`; what has no plain letter stays as it is. */
    public static function of(string $name): string
    {
        $plain = strtr(mb_strtolower($name), self::LETTERS);
        if (class_exists(\Normalizer::class)) {
            $split = \Normalizer::normalize($plain, \Normalizer::FORM_D);
            $plain = (string) preg_replace('/\p{Mn}/u', '', is_string($split) ? $split : $plain);
        }

        return strtoupper($plain);
    }
}
