<?php

declare(strict_types=1);

namespace PinYard\Design;

enum FieldKind: string
{
    case ShortText = 'short_text';
    case WholeNumber = 'whole_number';
    case OneChoice = 'one_choice';
    case Date = 'date';
}
