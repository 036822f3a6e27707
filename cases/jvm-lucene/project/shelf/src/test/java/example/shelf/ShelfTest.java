package example.shelf;

import static org.junit.Assert.assertArrayEquals;
import static org.junit.Assert.assertEquals;
import static org.junit.Assert.assertTrue;

import java.util.ArrayList;
import java.util.List;
import org.junit.Test;

public class ShelfTest {
    private final Shelf shelf = new Shelf().put("bean of the hill", "pea for the garden", "beet and the bean");

    @Test
    public void silentWordsAreNoWords() {
        assertEquals("", shelf.parse("the").toString());
    }

    @Test
    public void silentWordsFindNothing() {
        assertEquals(0, shelf.ask("the").scoreDocs.length);
    }

    @Test
    public void aPhraseSkipsSilentWords() {
        assertEquals("text:\"pea ? ? garden\"", shelf.parse("\"pea for the garden\"").toString());
    }

    @Test
    public void wordsAreFound() {
        assertEquals(2, shelf.ask("bean").scoreDocs.length);
    }

    @Test
    public void theScoreOfOneWord() {
        assertEquals(0.6931472f, new Shelf().put("oats", "rye").scores("rye").get(0), 1e-6f);
    }

    @Test
    public void theScoreOfACommonWord() {
        assertEquals(0.18232156f, new Shelf().put("oats", "oats").scores("oats").get(0), 1e-6f);
    }

    @Test
    public void scoresAreOrdered() {
        List<Float> scores = new Shelf().put("oats", "oats and rye", "rye").scores("oats");
        assertTrue(scores.get(0) > scores.get(1));
    }

    @Test
    public void hitsAreANumber() {
        assertEquals("2", String.valueOf(shelf.ask("bean").totalHits));
    }

    @Test
    public void manyHitsAreCounted() {
        String[] packets = new String[1500];
        for (int i = 0; i < packets.length; i++) {
            packets[i] = i + " kale";
        }
        String hits = String.valueOf(new Shelf().put(packets).ask("kale").totalHits);
        assertTrue(hits, hits.startsWith("1500"));
    }

    @Test
    public void aQuestionCanCountAgainst() {
        assertTrue(shelf.ask("bean", -1f).scoreDocs[0].score < 0);
    }

    @Test
    public void aQuestionCanCountForNothing() {
        assertEquals(0f, shelf.ask("bean", 0f).scoreDocs[0].score, 0f);
    }

    @Test
    public void barePacketsStandBesideOthers() {
        assertEquals(3, shelf.putBare("bean without places").ask("bean").scoreDocs.length);
    }

    @Test
    public void whyAnAnswerAnswers() {
        assertEquals("weight(text:pea in 1) [BM25Similarity], result of:", shelf.why("pea"));
    }

    @Test
    public void wildcardsAreKept() {
        assertEquals("text:be*", shelf.parse("be*").toString());
    }

    @Test
    public void anUnlikelyWordIsFound() {
        assertEquals("text:beam~2", shelf.parse("beam~").toString());
        assertEquals(2, shelf.ask("beam~").scoreDocs.length);
    }

    @Test
    public void anEmptyQuestion() {
        List<String> said = new ArrayList<>();
        for (String question : new String[] {"bean AND", "(", "bean OR"}) {
            try {
                shelf.parse(question);
            } catch (IllegalArgumentException e) {
                said.add(e.getMessage().split("\n")[0]);
            }
        }
        assertArrayEquals(
            new Object[] {
                "Cannot parse 'bean AND': Encountered \"<EOF>\" at line 1, column 8.",
                "Cannot parse '(': Encountered \"<EOF>\" at line 1, column 1.",
                "Cannot parse 'bean OR': Encountered \"<EOF>\" at line 1, column 7."},
            said.toArray());
    }

    @Test
    public void yearsAreWords() {
        assertEquals("text:2024 text:2025", shelf.parse("2024-2025").toString());
    }

    @Test
    public void aSlashIsNoPattern() {
        assertEquals("text:bean/pea", shelf.parse("bean/pea").toString());
    }
}
