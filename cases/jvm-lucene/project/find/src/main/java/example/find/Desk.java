package example.find;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import org.apache.lucene.index.IndexWriter;
import org.apache.lucene.search.FieldDoc;
import org.apache.lucene.search.IndexSearcher;
import org.apache.lucene.search.Query;
import org.apache.lucene.search.QueryCachingPolicy;
import org.apache.lucene.search.ScoreDoc;
import org.apache.lucene.search.Sort;
import org.apache.lucene.search.TopDocs;
import org.apache.lucene.search.TopFieldCollector;

/** The desk where seed packets are asked for. */
public final class Desk {
    private final IndexSearcher searcher;

    public Desk(IndexSearcher searcher) {
        this.searcher = searcher;
        searcher.setQueryCachingPolicy(QueryCachingPolicy.ALWAYS_CACHE);
    }

    /** How many packets answer to a question. */
    public long count(Query question) throws IOException {
        TopDocs top = searcher.search(question, 1);
        return top.totalHits;
    }

    /** A page of answers, or nothing where there are too many. */
    public List<Integer> page(Query question, int size, long limit) throws IOException {
        TopDocs top = searcher.search(question, size);
        List<Integer> page = new ArrayList<>();
        if (top.totalHits > limit) {
            return page;
        }
        for (ScoreDoc doc : top.scoreDocs) {
            page.add(doc.doc);
        }
        return page;
    }

    /** How good the best answer is. */
    public float best(Query question) throws IOException {
        return searcher.search(question, 1).getMaxScore();
    }

    /** The answers as shares of the best one. */
    public List<Float> shares(Query question) throws IOException {
        TopDocs top = searcher.search(question, 10);
        List<Float> shares = new ArrayList<>();
        for (ScoreDoc doc : top.scoreDocs) {
            shares.add(doc.score / top.getMaxScore());
        }
        return shares;
    }

    /** The oldest packets. */
    public TopDocs oldest(Query question, Sort byYear) throws IOException {
        TopFieldCollector collector = TopFieldCollector.create(byYear, 20, true, false, false);
        searcher.search(question, collector);
        return collector.topDocs();
    }

    /** The packets after the last one seen. */
    public TopDocs after(Query question, Sort byYear, FieldDoc last) throws IOException {
        TopFieldCollector collector = TopFieldCollector.create(byYear, 20, last, true, true, false);
        searcher.search(question, collector);
        return collector.topDocs();
    }

    /** What the keeper reads in the morning. */
    public static String state(IndexWriter writer) {
        int gone = writer.maxDoc() - writer.numDocs();
        return writer.numDocs() + " packets, " + gone + " given out";
    }
}
