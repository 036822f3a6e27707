<?php

namespace Choir;

class Singer
{
    public $name;
    public $voice;

    public function __construct($name, $voice = 'alto')
    {
        $this->name = $name;
        $this->voice = $voice;
    }
}

class Choir
{
    private $singers = [];

    public function add(Singer $s)
    {
        $this->singers[] = $s;
        return $this;
    }

    public function voices()
    {
        $count = [];
        foreach ($this->singers as $s) {
            $count[$s->voice] = ($count[$s->voice] ?? 0) + 1;
        }
        return $count;
    }

    public function size()
    {
        return count($this->singers);
    }

    /** @deprecated */
    public function getSingers()
    {
        @trigger_error('Choir::getSingers() is deprecated since 2.3, use all()', E_USER_DEPRECATED);
        return $this->all();
    }

    public function all()
    {
        return $this->singers;
    }

    public function seat($rows)
    {
        return array_chunk($this->singers, max(1, (int) ceil(count($this->singers) / $rows)));
    }
}

class Programme
{
    private $options;
    private $pieces = [];

    public function __construct(array $options = [])
    {
        $this->options = $options + ['interval' => 20, 'encore' => true];
    }

    public function piece($title, $minutes)
    {
        $this->pieces[$title] = $minutes;
        return $this;
    }

    public function minutes()
    {
        return array_sum($this->pieces) + $this->options['interval'];
    }

    public function first()
    {
        return array_key_first($this->pieces) ?? '';
    }

    public function render($glue = "\n")
    {
        return implode($glue, array_map(fn ($t) => "$t ({$this->pieces[$t]}')", array_keys($this->pieces)));
    }
}

class Pitch
{
    const CONCERT = 440;

    public static function of($note)
    {
        return self::CONCERT * (2 ** (['a' => 0, 'b' => 2, 'c' => 3][$note] / 12));
    }

    public static function cents($a, $b)
    {
        return (int) round(1200 * log($b / $a, 2));
    }
}

function roll(Choir $c)
{
    return implode(', ', array_map(fn ($s) => $s->name, $c->all()));
}

function ticket($euros)
{
    return number_format($euros, 2, ',', '.') . ' EUR';
}
