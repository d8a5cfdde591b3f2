package app.granary.server.run;

import java.sql.Timestamp;
import java.time.Instant;
import java.time.LocalDate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Nights whose mail went: one mail a night, also after a fall of power. */
@Component
public class NightsMailed {
    private final JdbcClient database;

    NightsMailed(JdbcClient database) {
        this.database = database;
    }

    boolean isSent(LocalDate night) {
        return database.sql("select count(*) from night_mail where night = ?").param(night).query(Integer.class).single() > 0;
    }

    public void note(LocalDate night, Instant at) {
        database.sql("merge into night_mail (night, sent_at) key (night) values (?, ?)").params(night, Timestamp.from(at)).update();
    }
}
