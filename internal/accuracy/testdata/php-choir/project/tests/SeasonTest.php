<?php

use PHPUnit\Framework\TestCase;

use function Choir\roll;

class SeasonTest extends TestCase
{
    public function testMixed(): void
    {
        $this->assertSame(1, Season\choir(['Finch' => 'tenor'])->size());
    }

    public function testBass(): void
    {
        $this->assertSame(['bass' => 1], Season\choir(['Crow' => 'bass'])->voices());
    }

    public function testTwoVoices(): void
    {
        $this->assertCount(2, Season\choir(['Crow' => 'bass', 'Finch' => 'tenor'])->voices());
    }

    public function testAltos(): void
    {
        $this->assertSame(['alto' => 3], Season\altos()->voices());
    }

    public function testOnlyAltosSing(): void
    {
        $this->assertCount(1, Season\altos()->voices());
    }

    public function testSize(): void
    {
        $this->assertSame(3, Season\altos()->size());
    }

    public function testSizeOfNone(): void
    {
        $this->assertSame(0, (new Choir\Choir())->size());
    }

    public function testRollAsTheyCame(): void
    {
        $this->assertSame('Wren, Dove, Lark', roll(Season\altos()));
    }

    public function testRollStartsWithTheOldest(): void
    {
        $this->assertStringStartsWith('Wren', roll(Season\altos()));
    }

    public function testSeats(): void
    {
        $this->assertCount(2, Season\altos()->seat(2));
    }

    public function testSeatsInOneRow(): void
    {
        $this->assertCount(1, Season\altos()->seat(1));
    }

    public function testPosters(): void
    {
        $this->assertSame('Wren/Dove/Lark', Season\posters(Season\altos()));
    }

    public function testSpring(): void
    {
        $this->assertSame(27, Season\spring()->minutes());
    }

    public function testSpringIsShort(): void
    {
        $this->assertLessThan(30, Season\spring()->minutes());
    }

    public function testGala(): void
    {
        $this->assertSame(61, Season\gala()->minutes());
    }

    public function testGalaFirst(): void
    {
        $this->assertSame('Gloria', Season\gala()->first());
    }

    public function testPrint(): void
    {
        $this->assertSame("May song (4'); Cuckoo (3')", Season\spring()->render('; '));
    }

    public function testPrintOne(): void
    {
        $this->assertSame("A (1')", (new Choir\Programme())->piece('A', 1)->render());
    }

    public function testNothingFirst(): void
    {
        $this->assertSame('', (new Choir\Programme())->first());
    }

    public function testStillNothing(): void
    {
        $this->assertEmpty((new Choir\Programme())->first());
    }

    public function testConcertPitch(): void
    {
        $this->assertEqualsWithDelta(440, Season\tune('a'), 0.1);
    }

    public function testMiddleC(): void
    {
        $this->assertEqualsWithDelta(523.25, Season\tune('c'), 0.1);
    }

    public function testCents(): void
    {
        $this->assertSame(1200, Choir\Pitch::cents(220, 440));
    }

    public function testTicket(): void
    {
        $this->assertSame('12,50 EUR', Choir\ticket(12.5));
    }

    public function testFreeTicket(): void
    {
        $this->assertSame('0,00 EUR', Choir\ticket(0));
    }

    public function testEncore(): void
    {
        $this->assertStringContainsString('Good night', Season\encore(Season\spring())->render());
    }

    public function testRename(): void
    {
        $singer = new Choir\Singer('Wren');
        $singer->name = 'Jay';
        $this->assertSame('Jay', $singer->name);
    }

    public function testRenameTwice(): void
    {
        $singer = new Choir\Singer('Dove');
        $singer->name = 'Pigeon';
        $this->assertSame('Pigeon', $singer->name);
    }

    public function testHall(): void
    {
        $this->assertFileExists(__DIR__ . '/hall.txt');
    }
}
