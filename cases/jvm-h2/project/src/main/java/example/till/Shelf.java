package example.till;

import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;

/** Where tables stand. */
public final class Shelf implements AutoCloseable {
    private final Connection connection;

    public Shelf(String settings) throws SQLException {
        connection = DriverManager.getConnection("jdbc:h2:mem:" + settings);
    }

    public int update(String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            return statement.executeUpdate(sql);
        }
    }

    public long number(String sql) throws SQLException {
        return Long.parseLong(texts(sql).get(0));
    }

    public BigDecimal decimal(String sql) throws SQLException {
        return new BigDecimal(texts(sql).get(0));
    }

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
