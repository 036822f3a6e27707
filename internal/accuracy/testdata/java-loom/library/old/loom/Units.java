package loom;

/** Conversions and texts. */
public final class Units {
    private Units() {}

    public static double toYards(double metres) {
        return metres * 1.09361;
    }

    public static String metres(double m) {
        return Math.round(m) + " m";
    }

    public static int picks(String text) {
        return Integer.parseInt(text.trim());
    }

    public static double shrink(double metres) {
        return metres * 0.9;
    }
}
