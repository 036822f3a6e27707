package example.find;

import java.io.IOException;
import org.apache.lucene.index.LeafReaderContext;
import org.apache.lucene.index.NumericDocValues;
import org.apache.lucene.queries.CustomScoreProvider;
import org.apache.lucene.queries.CustomScoreQuery;
import org.apache.lucene.search.Query;

/** Prefers fresh seed. */
public final class Fresh extends CustomScoreQuery {
    private final int year;

    public Fresh(Query question, int year) {
        super(question);
        this.year = year;
    }

    @Override
    protected CustomScoreProvider getCustomScoreProvider(LeafReaderContext context) {
        return new CustomScoreProvider(context) {
            @Override
            public float customScore(int doc, float score, float ignored) throws IOException {
                NumericDocValues years = context.reader().getNumericDocValues("year");
                return years.advanceExact(doc) ? score / (1 + year - years.longValue()) : score;
            }
        };
    }
}
