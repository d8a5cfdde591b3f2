package app.granary.server.queue;

import java.util.UUID;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;

/** Wishes in a database of their own, in memory. */
public final class TestWishes {
    private TestWishes() {
    }

    public static RunWishes none() {
        JdbcClient database = JdbcClient.create(new DriverManagerDataSource("jdbc:h2:mem:" + UUID.randomUUID() + ";DB_CLOSE_DELAY=-1"));
        database.sql("create table run_wish (run_id uuid primary key, afterwards varchar(20), mail_to varchar(4000))").update();
        return new RunWishes(database);
    }
}
