package loom.colour;

import java.time.Duration;

/** A dye bath. */
public class Bath {
    private final String colour;

    public Bath(String colour) {
        this.colour = colour;
    }

    public String dip(Duration time) {
        return (time.toMinutes() < 20 ? "pale " : "deep ") + colour;
    }
}
