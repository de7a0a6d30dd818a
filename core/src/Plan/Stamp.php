<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** A field that whoever makes the object does not type: it is filled in when the object is made, and stays. */
enum Stamp
{
    case Author;
    case Moment;
}
