<?php

declare(strict_types=1);

namespace Choir;

enum Voice: string
{
    case Soprano = 'soprano';
    case Alto = 'alto';
    case Tenor = 'tenor';
    case Bass = 'bass';
}

final class Singer
{
    public function __construct(public readonly string $name, public readonly Voice $voice = Voice::Alto)
    {
    }
}

class Choir
{
    private array $singers = [];

    public function add(Singer $s): static
    {
        $this->singers[] = $s;
        return $this;
    }

    public function voices(): array
    {
        $count = array_fill_keys(array_column(Voice::cases(), 'value'), 0);
        foreach ($this->singers as $s) {
            $count[$s->voice->value]++;
        }
        return $count;
    }

    public function count(): int
    {
        return count($this->singers);
    }

    public function all(): array
    {
        return $this->singers;
    }

    public function seat(int $rows, string $order): array
    {
        return array_chunk($this->singers, max(1, (int) ceil(count($this->singers) / $rows)));
    }
}

class Programme
{
    private array $options;
    private array $pieces = [];

    public function __construct(array $options = [])
    {
        foreach (array_keys($options) as $key) {
            if (!in_array($key, ['pause', 'encore'])) {
                throw new \InvalidArgumentException("Unknown option \"$key\" for a programme");
            }
        }
        $this->options = $options + ['pause' => 25, 'encore' => true];
    }

    public function piece(string $title, int $minutes): static
    {
        $this->pieces[$title] = $minutes;
        return $this;
    }

    public function minutes(): int
    {
        return array_sum($this->pieces) + $this->options['pause'];
    }

    public function first(): string
    {
        if ($this->pieces === []) {
            throw new \LogicException('The programme is empty');
        }
        return array_key_first($this->pieces);
    }

    public function render(string $glue = "\n"): string
    {
        return implode($glue, array_map(fn ($t) => "$t, {$this->pieces[$t]} min", array_keys($this->pieces)));
    }
}

class Tuning
{
    const CONCERT = 442;

    public static function of(string $note): float
    {
        return self::CONCERT * (2 ** (['a' => 0, 'b' => 2, 'c' => 3][$note] / 12));
    }

    public static function cents(float $a, float $b): int
    {
        return (int) round(1200 * log($b / $a, 2));
    }
}

function roll(Choir $c): string
{
    $names = array_map(fn ($s) => $s->name, $c->all());
    sort($names);
    return implode(', ', $names);
}
