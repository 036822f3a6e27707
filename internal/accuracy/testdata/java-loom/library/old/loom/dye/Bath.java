package loom.dye;

/** A dye bath. */
public class Bath {
    private final String colour;

    public Bath(String colour) {
        this.colour = colour;
    }

    public String dip(int minutes) {
        return (minutes < 20 ? "pale " : "deep ") + colour;
    }
}
