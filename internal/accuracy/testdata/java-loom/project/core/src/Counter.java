import loom.Loom;
import loom.Pattern;

/** Counts rows while weaving. */
class Counter implements Loom.Listener {
    int rows;

    @Override
    public void rowDone(int row) {
        rows = row;
    }

    static int count(Loom loom, Pattern p) {
        Counter c = new Counter();
        loom.run(p, c);
        return c.rows;
    }
}
