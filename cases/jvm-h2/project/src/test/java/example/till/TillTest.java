package example.till;

import static org.junit.jupiter.api.Assertions.assertEquals;

import org.junit.jupiter.api.Test;

class TillTest {
    @Test
    void aSaleIsNumbered() throws Exception {
        try (Till till = new Till("a")) {
            assertEquals(1, till.sell("apple", 500));
        }
    }

    @Test
    void salesAreNumberedInOrder() throws Exception {
        try (Till till = new Till("b")) {
            till.sell("apple", 500);
            assertEquals(2, till.sell("pear", 300));
        }
    }

    @Test
    void whatIsPaidIsAddedUp() throws Exception {
        try (Till till = new Till("c")) {
            till.sell("apple", 500);
            till.sell("apple", 250);
            assertEquals(750, till.paid("apple"));
        }
    }

    @Test
    void nothingIsPaid() throws Exception {
        try (Till till = new Till("d")) {
            assertEquals(0, till.paid("plum"));
        }
    }
}
