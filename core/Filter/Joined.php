<?php

declare(strict_types=1);

namespace PinYard\Filter;

/** How the parts of a filter go together. */
enum Joined: string
{
    case All = 'all';
    case Any = 'any';
    /** Of its parts not one is true. */
    case None = 'none';
}
