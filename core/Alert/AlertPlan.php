<?php

declare(strict_types=1);

namespace PinYard\Alert;

use PinYard\Board\BoardContext;
use PinYard\Board\TileInput;
use PinYard\Problem;
use PinYard\Refused;

/** An alert: whom it tells of what, in which ways, and when it keeps still. At the desk it is always told. */
final readonly class AlertPlan
{
    public const LONGEST_NAME = 120;

    /** @param  list<int>  $crews  numbers of those that are told beside, or instead of, whoever coordinates */
    private function __construct(
        public string $name,
        public AlertRule $rule,
        public bool $toCoordinators,
        public array $crews,
        public bool $byMail,
        public bool $onPhones,
        public Rest $rest,
    ) {
    }

    /**
     * Reads `{name, rule, to: {coordinators, crews}, by_mail, on_phones, rest}`.
     *
     * @param  list<int>  $crews  of the programme
     *
     * @throws Refused naming every place that is off
     */
    public static function read(mixed $in, BoardContext $context, array $crews): self
    {
        if (! is_array($in)) {
            throw Refused::because('must_be_object');
        }
        $problems = [];
        $name = is_string($in['name'] ?? null) ? trim($in['name']) : '';
        if ($name === '') {
            $problems[] = new Problem('empty', 'name');
        } elseif (mb_strlen($name) > self::LONGEST_NAME) {
            $problems[] = new Problem('too_long', 'name', mb_substr($name, 0, 40).'…', [
                'length' => mb_strlen($name),
                'most' => self::LONGEST_NAME,
            ]);
        }
        $to = is_array($in['to'] ?? null) ? $in['to'] : ['coordinators' => true];
        $told = is_array($to['crews'] ?? null) ? array_values(array_unique($to['crews'], SORT_REGULAR)) : [];
        foreach ($told as $crew) {
            if (! in_array($crew, $crews, true)) {
                $problems[] = new Problem('outing_crew', 'to/crews', is_scalar($crew) ? $crew : null);
            }
        }
        $coordinators = ($to['coordinators'] ?? false) === true;
        if (! $coordinators && $told === []) {
            $problems[] = new Problem('alert_nobody', 'to');
        }
        $rule = is_array($in['rule'] ?? null) ? $in['rule'] : [];
        $read = self::tried(
            static fn (): AlertRule => AlertRule::of(new TileInput($rule, 'rule', $context), $crews),
            $problems,
        );
        $rest = self::tried(static fn (): Rest => Rest::read($in['rest'] ?? null), $problems);
        if ($problems !== [] || $read === null || $rest === null) {
            throw Refused::for($problems);
        }

        return new self(
            $name,
            $read,
            $coordinators,
            array_values(array_filter($told, is_int(...))),
            ($in['by_mail'] ?? false) === true,
            ($in['on_phones'] ?? false) === true,
            $rest,
        );
    }

    /**
     * @template T
     *
     * @param  callable(): T  $read
     * @param  list<Problem>  $problems
     * @return T|null
     */
    private static function tried(callable $read, array &$problems): mixed
    {
        try {
            return $read();
        } catch (Refused $e) {
            array_push($problems, ...$e->problems);

            return null;
        }
    }

    /** @return array<string, mixed> as it is stored */
    public function toArray(): array
    {
        return [
            'name' => $this->name,
            'rule' => $this->rule->toArray(),
            'to' => ['coordinators' => $this->toCoordinators, 'crews' => $this->crews],
            'by_mail' => $this->byMail,
            'on_phones' => $this->onPhones,
            'rest' => $this->rest->toArray(),
        ];
    }
}
