import loom.Loom;
import loom.Pattern;
import loom.Thread;
import loom.Units;
import loom.dye.Bath;

/** Patterns of our own. */
class Stripes extends Pattern {
    private final Thread weft;

    Stripes(Thread weft) {
        this.weft = weft;
    }

    String pale() {
        return new Bath(weft.colour).dip(5);
    }

    double yards() {
        return Units.toYards(3);
    }

    Loom wide() {
        return new Loom(4, 160);
    }

    boolean fits(Loom loom) {
        setRepeat(2);
        return loom.getShafts() > 4 && loom.fits(this);
    }
}
