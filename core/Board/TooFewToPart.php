<?php

declare(strict_types=1);

namespace PinYard\Board;

/** Groups that may not be told apart, being of too few records. */
final class TooFewToPart extends HeldBack
{
}
