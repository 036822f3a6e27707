package loom;

/** Something on the loom went wrong. */
public class WeaveException extends Exception {
    public WeaveException(String message) {
        super(message);
    }
}
