<?php

declare(strict_types=1);

namespace App\Records;

/** Why records of a layer were written. */
enum Cause: string
{
    /** A batch from a phone. */
    case Sync = 'sync';

    case Desk = 'desk';

    /** Decided over what phones brought in dispute. */
    case Conflict = 'conflict';

    case Import = 'import';

    case ImportUndone = 'import_undone';

    case Fill = 'fill';

    case FillUndone = 'fill_undone';

    /** A next version of the design. */
    case Design = 'design';

    /** A file arrived, was announced, taken away or put back. */
    case Files = 'files';

    /** Records were accepted as they are, or are to be looked at again. */
    case Checked = 'checked';

    /** Calculated values follow visits. */
    case Visits = 'visits';

    /** Calculated values follow areas in which records lie. */
    case Areas = 'areas';

    /** Calculated values follow other fields of the same record, over many records. */
    case Formulas = 'formulas';

    /** Calculated values follow the date. */
    case Day = 'day';
}
