package loom;

import java.util.OptionalInt;
import loom.event.RowListener;

/** One loom. */
public class Loom {
    private final int shafts;
    private final int width;

    private Loom(int shafts, int width) {
        this.shafts = shafts;
        this.width = width;
    }

    public static Loom of(int shafts, int width) {
        return new Loom(shafts, width);
    }

    public OptionalInt getShafts() {
        return OptionalInt.of(shafts);
    }

    public int ends(int epc) {
        return width * epc + 4;
    }

    public double grams(Yarn warp, int epc, double metres) {
        return ends(epc) * metres / warp.metresPerGram();
    }

    public String weave(Pattern p) throws WeaveException {
        if (p.getRows().isEmpty()) {
            throw new WeaveException("nothing to weave");
        }
        return p.draft().replace('x', '#');
    }

    public void run(Pattern p, RowListener l) {
        for (int i = 1; i <= p.height(); i++) {
            l.rowDone(i, p.height());
        }
    }
}
