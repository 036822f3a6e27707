package example.till;

import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;

/** The till of a farm shop: what was sold, kept in a small database. */
public final class Till implements AutoCloseable {
    private final Connection connection;

    public Till(String name) throws SQLException {
        connection = DriverManager.getConnection("jdbc:h2:mem:" + name);
        update("CREATE TABLE sale (id INT IDENTITY, fruit VARCHAR(20), grams INT, paid BOOLEAN, at TIMESTAMP)");
    }

    /** Notes a sale and returns its number. */
    public long sell(String fruit, int grams) throws SQLException {
        try (PreparedStatement insert = connection.prepareStatement("INSERT INTO sale VALUES (NULL, ?, ?, 1, NOW())")) {
            insert.setString(1, fruit);
            insert.setInt(2, grams);
            insert.executeUpdate();
        }
        return number("CALL IDENTITY()");
    }

    /** How much of a fruit was paid for. */
    public long paid(String fruit) throws SQLException {
        return number("SELECT COALESCE(SUM(grams), 0) FROM sale WHERE paid = 1 AND fruit = '" + fruit + "'");
    }

    /** Runs a statement that changes something. */
    public int update(String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            return statement.executeUpdate(sql);
        }
    }

    /** One number. */
    public long number(String sql) throws SQLException {
        try (Statement statement = connection.createStatement(); ResultSet result = statement.executeQuery(sql)) {
            result.next();
            return result.getLong(1);
        }
    }

    /** One decimal number. */
    public BigDecimal decimal(String sql) throws SQLException {
        try (Statement statement = connection.createStatement(); ResultSet result = statement.executeQuery(sql)) {
            result.next();
            return result.getBigDecimal(1);
        }
    }

    /** The texts of a column. */
    public List<String> texts(String sql) throws SQLException {
        List<String> texts = new ArrayList<>();
        try (Statement statement = connection.createStatement(); ResultSet result = statement.executeQuery(sql)) {
            while (result.next()) {
                texts.add(result.getString(1));
            }
        }
        return texts;
    }

    @Override
    public void close() throws SQLException {
        connection.close();
    }
}
