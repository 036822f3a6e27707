package example.pages;

import static org.junit.Assert.assertEquals;
import static org.junit.Assert.assertFalse;
import static org.junit.Assert.assertTrue;

import java.util.Arrays;
import org.junit.Test;

public class PagesTest {
    @Test public void listOfPricesIsIndented() {
        assertEquals("<prices>\n <leek>\n  2\n </leek>\n</prices>", Pages.list("<prices><leek>2</leek></prices>"));
    }

    @Test public void listOfOnePrice() {
        assertEquals("<leek>\n 2\n</leek>", Pages.list("<leek>2</leek>"));
    }

    @Test public void feedHasNoBody() {
        assertTrue(Pages.bare("<feed/>"));
    }

    @Test public void feedHasNoHead() {
        assertTrue(Pages.headless("<feed/>"));
    }

    @Test public void stallsBySpacedName() {
        assertEquals(0, Pages.stalls("<p>Red  Barn</p><p>Mill</p>", "Red Barn Farm"));
    }

    @Test public void stallsByName() {
        assertEquals(1, Pages.stalls("<p>Red Barn</p><p>Mill</p>", "red barn"));
    }

    @Test public void stallsByNameWithTwoBlanks() {
        assertEquals(0, Pages.stalls("<p>Red Barn</p>", "Red  Barn"));
    }

    @Test public void paragraphKeepsItsBlank() {
        assertEquals("<p> Eggs and <b>cheese</b> </p>", Pages.paragraph("<p> Eggs and <b>cheese</b> </p>"));
    }

    @Test public void linkAboveTheTop() {
        assertEquals("http://market.example/../stall", Pages.link("http://market.example/", "../stall"));
    }

    @Test public void linkToAPhoneIsNone() {
        assertEquals("", Pages.link("http://market.example/", "tel:5550100"));
    }

    @Test public void roomForAMegabyte() {
        assertEquals(1024 * 1024, Pages.room());
    }

    @Test public void emptySelectorIsTold() {
        assertEquals("String must not be empty", Pages.refuse(""));
    }

    @Test public void emptyAddressIsTold() {
        assertEquals("Must supply a valid URL", Pages.refuseAddress(""));
    }

    @Test public void movedChildIsGone() {
        assertEquals(Arrays.asList("<b>cheese</b>"), Pages.moved("<p id=from><i>eggs</i><b>cheese</b></p><p id=to></p>"));
    }

    @Test public void centreIsInline() {
        assertEquals("inline", Pages.centred("<center>Market</center>"));
    }

    @Test public void bellRings() {
        assertEquals("\u0007", Pages.escaped("\u0007"));
    }

    @Test public void mistakeIsTold() {
        assertEquals("Unexpected token [EndTag] when in state [InBody]", Pages.mistake("<p>leek</b></i>"));
    }

    @Test public void stallsAreCounted() {
        assertEquals(2, Pages.market("<stall>1</stall><stall>2</stall><stall>3</stall>"));
    }

    @Test public void marketIsClosed() {
        assertFalse(Pages.boundary("<p>open</p>").contains("open"));
    }
}
