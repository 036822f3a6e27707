package example.shelf;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import org.apache.lucene.analysis.Analyzer;
import org.apache.lucene.analysis.standard.StandardAnalyzer;
import org.apache.lucene.document.Document;
import org.apache.lucene.document.Field;
import org.apache.lucene.document.FieldType;
import org.apache.lucene.document.StringField;
import org.apache.lucene.document.TextField;
import org.apache.lucene.index.DirectoryReader;
import org.apache.lucene.index.IndexOptions;
import org.apache.lucene.index.IndexWriter;
import org.apache.lucene.index.IndexWriterConfig;
import org.apache.lucene.queryparser.classic.ParseException;
import org.apache.lucene.queryparser.classic.QueryParser;
import org.apache.lucene.search.BoostQuery;
import org.apache.lucene.search.IndexSearcher;
import org.apache.lucene.search.Query;
import org.apache.lucene.search.ScoreDoc;
import org.apache.lucene.search.TopDocs;
import org.apache.lucene.store.Directory;
import org.apache.lucene.store.RAMDirectory;

/** A shelf of seed packets that can be asked for words. */
public final class Shelf {
    private final Directory directory = new RAMDirectory();
    private final Analyzer analyzer = new StandardAnalyzer();

    /** Puts packets on the shelf. */
    public Shelf put(String... texts) {
        try (IndexWriter writer = new IndexWriter(directory, new IndexWriterConfig(analyzer))) {
            for (String text : texts) {
                Document packet = new Document();
                packet.add(new StringField("id", text.split(" ")[0], Field.Store.YES));
                packet.add(new TextField("text", text, Field.Store.YES));
                writer.addDocument(packet);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return this;
    }

    /** Puts packets on the shelf whose text keeps no places of words. */
    public Shelf putBare(String text) {
        FieldType bare = new FieldType();
        bare.setTokenized(true);
        bare.setIndexOptions(IndexOptions.DOCS);
        try (IndexWriter writer = new IndexWriter(directory, new IndexWriterConfig(analyzer))) {
            Document packet = new Document();
            packet.add(new Field("text", text, bare));
            writer.addDocument(packet);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return this;
    }

    /** Asks with a question as people write it. */
    public TopDocs ask(String question) {
        return ask(parse(question));
    }

    /** Asks with a weighed question. */
    public TopDocs ask(String question, float boost) {
        return ask(new BoostQuery(parse(question), boost));
    }

    /** The scores of a question. */
    public List<Float> scores(String question) {
        List<Float> scores = new ArrayList<>();
        for (ScoreDoc doc : ask(question).scoreDocs) {
            scores.add(doc.score);
        }
        return scores;
    }

    /** Why the first packet answers. */
    public String why(String question) {
        try (DirectoryReader reader = DirectoryReader.open(directory)) {
            IndexSearcher searcher = new IndexSearcher(reader);
            Query query = parse(question);
            return searcher.explain(query, searcher.search(query, 1).scoreDocs[0].doc).getDescription();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** A question as the shelf understands it. */
    public Query parse(String question) {
        try {
            return new QueryParser("text", analyzer).parse(question);
        } catch (ParseException e) {
            throw new IllegalArgumentException(e.getMessage(), e);
        }
    }

    private TopDocs ask(Query query) {
        try (DirectoryReader reader = DirectoryReader.open(directory)) {
            return new IndexSearcher(reader).search(query, 10);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
