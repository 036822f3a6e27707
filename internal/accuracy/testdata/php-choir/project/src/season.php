<?php

namespace Season;

use Choir\Choir;
use Choir\Pitch;
use Choir\Programme;
use Choir\Singer;

function choir(array $names): Choir
{
    $choir = new Choir();
    foreach ($names as $name => $voice) {
        $choir->add(new Singer($name, $voice));
    }
    return $choir;
}

function altos(): Choir
{
    return (new Choir())->add(new Singer('Wren'))->add(new Singer('Dove'))->add(new Singer('Lark'));
}

function spring(): Programme
{
    return (new Programme())->piece('May song', 4)->piece('Cuckoo', 3);
}

function gala(): Programme
{
    return (new Programme(['interval' => 30]))->piece('Gloria', 31);
}

function tune(string $note): float
{
    return Pitch::of($note);
}

function posters(Choir $choir): string
{
    return implode('/', array_map(fn ($s) => $s->name, $choir->getSingers()));
}

function encore(Programme $p): Programme
{
    return $p->piece('Good night', '2');
}
