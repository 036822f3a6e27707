package example.find;

import java.io.Reader;
import org.apache.lucene.analysis.Analyzer;
import org.apache.lucene.analysis.CharArraySet;
import org.apache.lucene.analysis.StopFilter;
import org.apache.lucene.analysis.TokenStream;
import org.apache.lucene.analysis.Tokenizer;
import org.apache.lucene.analysis.core.LowerCaseTokenizer;
import org.apache.lucene.analysis.standard.StandardAnalyzer;
import org.apache.lucene.analysis.standard.StandardFilter;
import org.apache.lucene.analysis.standard.StandardTokenizer;
import org.apache.lucene.analysis.util.CharTokenizer;

/** How the names of plants are taken apart. */
public final class Names extends Analyzer {
    private final CharArraySet stops = StandardAnalyzer.ENGLISH_STOP_WORDS_SET;

    @Override
    protected TokenStreamComponents createComponents(String field) {
        Tokenizer source = field.equals("latin") ? new LowerCaseTokenizer() : new StandardTokenizer();
        TokenStream stream = new StandardFilter(source);
        return new TokenStreamComponents(source, new StopFilter(stream, stops)) {
            @Override
            protected void setReader(Reader reader) {
                super.setReader(reader);
            }
        };
    }

    /** Takes a list of numbers apart. */
    public static Tokenizer numbers() {
        return CharTokenizer.fromTokenCharPredicate(Character::isDigit, c -> c);
    }

    /** How many words say nothing. */
    public static int silent() {
        return StandardAnalyzer.STOP_WORDS_SET.size();
    }

    /** Plain words, as they stand. */
    public static TokenStream plain() {
        return new StandardFilter(new StandardTokenizer());
    }
}
