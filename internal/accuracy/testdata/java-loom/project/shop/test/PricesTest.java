import static org.junit.Assert.assertEquals;
import static org.junit.Assert.assertTrue;

import loom.Pattern;
import org.junit.Test;

public class PricesTest {
    @Test public void tagOfThree() { assertEquals("3 m for 60", Prices.tag(3, 60)); }
    @Test public void tagOfAHalf() { assertEquals("1 m for 10", Prices.tag(0.5, 10)); }
    @Test public void tagOfNone() { assertEquals("0 m for 0", Prices.tag(0, 0)); }
    @Test public void finished() { assertEquals(9.0, Prices.finished(10), 0.001); }
    @Test public void finishedLong() { assertEquals(90.0, Prices.finished(100), 0.001); }
    @Test public void picksWithSpaces() { assertEquals(12, Prices.picks(" 12 ")); }
    @Test public void picksAtTheEnd() { assertEquals(7, Prices.picks("7 ")); }
    @Test public void picksOfText() { assertEquals(7, Prices.picks("seven")); }
    @Test public void plainTwo() { assertEquals(2, Prices.plain(2).height()); }
    @Test public void plainSix() { assertEquals(6, Prices.plain(6).height()); }
    @Test public void trims() { Pattern p = new Pattern().addRow("x").addRow("."); Prices.trim(p); assertEquals(1, p.height()); }
    @Test public void trimsToNothing() { Pattern p = new Pattern().addRow("x"); Prices.trim(p); assertEquals(0, p.height()); }
    @Test public void draft() { assertEquals("x.\n.x", new Pattern().addRow("x.").addRow(".x").draft()); }
    @Test public void draftOfOne() { assertEquals("x", new Pattern().addRow("x").draft()); }
    @Test public void mirrors() { assertTrue(new Pattern().addRow("x.").addRow(".x").mirrored().draft().startsWith(".x")); }
}
