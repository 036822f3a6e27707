import loom.Pattern;
import loom.Units;

/** What stands on the price tags: nothing here needed a change to compile. */
class Prices {
    static String tag(double metres, int euros) {
        return Units.metres(metres) + " for " + euros;
    }

    static double finished(double metres) {
        return Units.shrink(metres);
    }

    static int picks(String field) {
        return Units.picks(field);
    }

    static Pattern plain(int rows) {
        Pattern p = new Pattern();
        for (int i = 0; i < rows; i++) {
            p.addRow(i % 2 == 0 ? "x.x." : "    ");
        }
        return p;
    }

    static void trim(Pattern p) {
        p.getRows().remove(0);
    }
}
