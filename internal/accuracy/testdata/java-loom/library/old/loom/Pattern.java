package loom;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;

/** What is woven, row by row. */
public class Pattern {
    private final List<String> rows = new ArrayList<>();
    private int repeat = 1;

    public Pattern addRow(String row) {
        rows.add(row);
        return this;
    }

    public List<String> getRows() {
        return rows;
    }

    public void setRepeat(int repeat) {
        this.repeat = repeat;
    }

    public int height() {
        return rows.size() * repeat;
    }

    /** @deprecated use {@link #mirrored()} */
    @Deprecated
    public Pattern flip() {
        return mirrored();
    }

    public Pattern mirrored() {
        Pattern p = new Pattern();
        List<String> reversed = new ArrayList<>(rows);
        Collections.reverse(reversed);
        for (String row : reversed) {
            p.addRow(row);
        }
        return p;
    }

    public String draft() {
        return String.join("\n", rows);
    }
}
