import java.util.List;
import loom.Loom;
import loom.Pattern;
import loom.Thread;
import loom.Units;
import loom.dye.Bath;

/** A cloth that the mill offers. */
class Cloth {
    private final Thread warp = new Thread("madder", 40);
    private final Loom loom = new Loom(8, 90);

    String order(Pattern p) {
        return loom.weave(p);
    }

    String sample() {
        Pattern p = new Pattern().addRow("x.x.").addRow(".x.x");
        p.setRepeat(4);
        return loom.weave(p.flip());
    }

    double weight(double metres) {
        return loom.grams(warp, 12, metres);
    }

    int shafts() {
        return loom.getShafts();
    }

    double yards(double metres) {
        return Units.toYards(metres);
    }

    String dyed() {
        return new Bath(warp.colour).dip(30);
    }

    List<String> rows(Pattern p) {
        return p.flip().getRows();
    }

    String tooFine() {
        String label = warp.tex;
        return label;
    }
}
