package example.till;

import java.math.BigDecimal;
import java.sql.SQLException;
import java.util.List;

/** The shop's ledger, in tables of its own. */
public final class Ledger {
    private final Shelf shelf;

    public Ledger(Shelf shelf) {
        this.shelf = shelf;
    }

    /** Keeps what each day brought. */
    public void days() throws SQLException {
        shelf.update("CREATE TABLE day (day DATE, value INT)");
        shelf.update("INSERT INTO day VALUES (DATE '2024-06-03', 120)");
    }

    /** What all days brought. */
    public BigDecimal sum() throws SQLException {
        return shelf.decimal("SELECT SUM(value) FROM day");
    }

    /** Keeps prices as they are written. */
    public void prices() throws SQLException {
        shelf.update("CREATE TABLE price (fruit VARCHAR(20), euro DECIMAL)");
        shelf.update("INSERT INTO price VALUES ('apple', 2.35), ('pear', 3.10)");
    }

    /** The price of a fruit. */
    public BigDecimal price(String fruit) throws SQLException {
        return shelf.decimal("SELECT euro FROM price WHERE fruit = '" + fruit + "'");
    }

    /** Numbers for tickets. */
    public long ticket() throws SQLException {
        shelf.update("CREATE SEQUENCE IF NOT EXISTS ticket START WITH 1");
        return shelf.number("SELECT ticket.NEXTVAL");
    }

    /** The tables that there are. */
    public List<String> tables() throws SQLException {
        return shelf.texts("SELECT table_name FROM information_schema.tables WHERE table_type = 'TABLE' ORDER BY 1");
    }

    /** The columns of a table with their types. */
    public List<String> types(String table) throws SQLException {
        return shelf.texts("SELECT type_name FROM information_schema.columns WHERE table_name = '" + table + "' ORDER BY ordinal_position");
    }

    /** A mark of the scale, kept as bytes. */
    public void marks() throws SQLException {
        shelf.update("CREATE TABLE mark (scale INT PRIMARY KEY, bytes BINARY)");
        shelf.update("INSERT INTO mark VALUES (1, X'0102')");
    }
}
