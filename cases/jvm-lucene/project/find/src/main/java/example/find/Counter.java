package example.find;

import java.io.IOException;
import org.apache.lucene.index.LeafReaderContext;
import org.apache.lucene.search.Scorer;
import org.apache.lucene.search.SimpleCollector;

/** Counts what scores above a bar. */
public final class Counter extends SimpleCollector {
    private final float bar;
    private Scorer scorer;
    private int base;
    private int count;
    private int last;

    public Counter(float bar) {
        this.bar = bar;
    }

    @Override
    public void setScorer(Scorer scorer) throws IOException {
        this.scorer = scorer;
    }

    @Override
    protected void doSetNextReader(LeafReaderContext context) throws IOException {
        base = context.docBase;
    }

    @Override
    public void collect(int doc) throws IOException {
        if (scorer.score() > bar) {
            count++;
            last = base + doc;
        }
    }

    @Override
    public boolean needsScores() {
        return true;
    }

    public int count() {
        return count;
    }

    public int last() {
        return last;
    }
}
