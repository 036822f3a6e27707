package loom.event;

/** Told of every row. */
public interface RowListener {
    void rowDone(int row, int of);

    void stopped(String reason);
}
