package loom;

/** A yarn of one colour and thickness. */
public record Yarn(String colour, int tex) {
    public double metresPerGram() {
        return 1000.0 / tex;
    }
}
