package loom;

import java.util.Locale;

/** Conversions and texts. */
public final class Units {
    private Units() {}

    public static String metres(double m) {
        return String.format(Locale.ROOT, "%.1f m", m);
    }

    public static int picks(String text) {
        return Integer.parseInt(text);
    }

    public static double shrink(double metres) {
        return metres * 0.92;
    }
}
