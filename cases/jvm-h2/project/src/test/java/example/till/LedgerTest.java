package example.till;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import java.math.BigDecimal;
import java.sql.SQLException;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class LedgerTest {
    private Shelf shelf;
    private Ledger ledger;

    @BeforeEach
    void open() throws Exception {
        shelf = new Shelf("");
        ledger = new Ledger(shelf);
    }

    @AfterEach
    void close() throws Exception {
        shelf.close();
    }

    @Test
    void daysAreAddedUp() throws Exception {
        ledger.days();
        assertEquals(new BigDecimal("120"), ledger.sum());
    }

    @Test
    void aDayIsKept() throws Exception {
        ledger.days();
        assertEquals(List.of("2024-06-03"), shelf.texts("SELECT day FROM day"));
    }

    @Test
    void aPriceKeepsItsCents() throws Exception {
        ledger.prices();
        assertEquals(new BigDecimal("2.35"), ledger.price("apple"));
    }

    @Test
    void aPriceCanBeDoubled() throws Exception {
        ledger.prices();
        assertEquals(new BigDecimal("6.20"), shelf.decimal("SELECT euro * 2 FROM price WHERE fruit = 'pear'"));
    }

    @Test
    void ticketsAreNumbered() throws Exception {
        ledger.ticket();
        assertEquals(2, ledger.ticket());
    }

    @Test
    void aTicketIsTheCurrentOne() throws Exception {
        ledger.ticket();
        assertEquals(1, shelf.number("SELECT ticket.CURRVAL"));
    }

    @Test
    void tablesAreListed() throws Exception {
        ledger.prices();
        assertEquals(List.of("PRICE"), ledger.tables());
    }

    @Test
    void columnsHaveTypes() throws Exception {
        ledger.prices();
        assertEquals(List.of("VARCHAR", "DECIMAL"), ledger.types("PRICE"));
    }

    @Test
    void aMarkHasTwoBytes() throws Exception {
        ledger.marks();
        assertEquals(2, shelf.number("SELECT LENGTH(bytes) FROM mark"));
    }

    @Test
    void aMarkIsFoundAgain() throws Exception {
        ledger.marks();
        assertEquals(1, shelf.number("SELECT scale FROM mark WHERE bytes = X'0102'"));
    }

    @Test
    void theUserIsAWord() throws Exception {
        shelf.update("CREATE TABLE user (name VARCHAR(20))");
        assertEquals(0, shelf.number("SELECT COUNT(*) FROM user"));
    }

    @Test
    void aShareIsAHalf() throws Exception {
        assertEquals(new BigDecimal("0.5"), shelf.decimal("SELECT 1 / 2.0"));
    }

    @Test
    void kindsAreNumberedFromNothing() throws Exception {
        shelf.update("CREATE TABLE box (kind ENUM('small', 'large'))");
        shelf.update("INSERT INTO box VALUES ('large')");
        assertEquals(1, shelf.number("SELECT CAST(kind AS INT) FROM box"));
    }

    @Test
    void aBoxHoldsManyThings() throws Exception {
        shelf.update("CREATE TABLE many (things ARRAY)");
        shelf.update("INSERT INTO many VALUES (ARRAY[1, 'two'])");
        assertEquals(2, shelf.number("SELECT ARRAY_LENGTH(things) FROM many"));
    }

    @Test
    void theLogCanBeOff() throws Exception {
        try (Shelf quiet = new Shelf("quiet;LOG=0")) {
            assertEquals(1, quiet.number("SELECT 1"));
        }
    }

    @Test
    void namesAreShort() throws Exception {
        shelf.update("CREATE TABLE short (name VARCHAR(20 CHAR))");
        assertEquals(0, shelf.number("SELECT COUNT(*) FROM short"));
    }

    @Test
    void theMiddleOfADay() throws Exception {
        assertEquals("2024-06-03 12:00:00", shelf.texts("SELECT TIMESTAMP '2024-06-03 12:00:00'").get(0));
    }

    @Test
    void tooLongANameIsRefused() throws Exception {
        shelf.update("CREATE TABLE name (text VARCHAR(3))");
        SQLException said = assertThrows(SQLException.class, () -> shelf.update("INSERT INTO name VALUES ('Ingrid')"));
        assertEquals("Value too long for column \"TEXT VARCHAR(3)\": \"'Ingrid' (6)\"", said.getMessage().split(";")[0]);
    }

    @Test
    void anUnknownTableIsTold() {
        SQLException said = assertThrows(SQLException.class, () -> shelf.number("SELECT 1 FROM nowhere"));
        assertEquals("Table \"NOWHERE\" not found", said.getMessage().split(";")[0]);
    }

    @Test
    void growersAreGrouped() throws Exception {
        shelf.update("CREATE TABLE crate (grower VARCHAR(20), kilos INT)");
        shelf.update("INSERT INTO crate VALUES ('Ada', 3), ('Ada', 4)");
        assertEquals(List.of("7"), shelf.texts("SELECT SUM(kilos) FROM crate GROUP BY 1"));
    }

    @Test
    void weightsAreRounded() throws Exception {
        assertEquals(new BigDecimal("2.5"), shelf.decimal("SELECT ROUND(2.45, 1)"));
        assertEquals(new BigDecimal("3"), shelf.decimal("SELECT ROUND(2.45, 1) + 1"));
    }

    @Test
    void anAverageHasItsDecimals() throws Exception {
        shelf.update("CREATE TABLE kilos (n INT)");
        shelf.update("INSERT INTO kilos VALUES (1), (2)");
        assertEquals("1", shelf.texts("SELECT AVG(n) FROM kilos").get(0));
    }
}
