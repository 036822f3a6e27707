package loom;

/** A thread of one colour and thickness. */
public final class Thread {
    public final String colour;
    public final int tex;

    public Thread(String colour, int tex) {
        this.colour = colour;
        this.tex = tex;
    }

    public double metresPerGram() {
        return 1000.0 / tex;
    }
}
