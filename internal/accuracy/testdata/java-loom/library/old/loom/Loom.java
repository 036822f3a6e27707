package loom;

/** One loom. */
public class Loom {
    private final int shafts;
    private final int width;

    public Loom(int shafts, int width) {
        this.shafts = shafts;
        this.width = width;
    }

    public int getShafts() {
        return shafts;
    }

    public int ends(int epc) {
        return width * epc;
    }

    public double grams(Thread warp, int epc, double metres) {
        return ends(epc) * metres / warp.metresPerGram();
    }

    public String weave(Pattern p) {
        if (p.getRows().isEmpty()) {
            return "";
        }
        return p.draft().replace('x', '#');
    }

    public interface Listener {
        void rowDone(int row);
    }

    public void run(Pattern p, Listener l) {
        for (int i = 1; i <= p.height(); i++) {
            l.rowDone(i);
        }
    }

    public boolean fits(Pattern p) {
        return p.getRows().stream().allMatch(r -> r.length() <= shafts);
    }
}
