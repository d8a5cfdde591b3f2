package app.granary.server.database;

import app.granary.server.destination.KeptForById;
import app.granary.server.journal.Journal;
import java.time.Clock;
import org.springframework.boot.WebApplicationType;
import org.springframework.boot.autoconfigure.ImportAutoConfiguration;
import org.springframework.boot.autoconfigure.domain.EntityScan;
import org.springframework.boot.autoconfigure.flyway.FlywayAutoConfiguration;
import org.springframework.boot.autoconfigure.jdbc.DataSourceAutoConfiguration;
import org.springframework.boot.autoconfigure.orm.jpa.HibernateJpaAutoConfiguration;
import org.springframework.boot.autoconfigure.transaction.TransactionAutoConfiguration;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.ComponentScan;
import org.springframework.context.annotation.FilterType;
import org.springframework.context.annotation.Import;
import org.springframework.data.jpa.repository.config.EnableJpaRepositories;

/**
 * A program that writes lines into the journal as fast as it may, from several threads, and says of each when it was told that it is done;
 * until it is killed.
 */
@ImportAutoConfiguration({DataSourceAutoConfiguration.class, FlywayAutoConfiguration.class, HibernateJpaAutoConfiguration.class,
    TransactionAutoConfiguration.class})
@EntityScan("app.granary.server.journal")
@EnableJpaRepositories("app.granary.server.journal")
@Import({OwnersConnection.class, Rights.class, KeptForById.class})
@ComponentScan(basePackages = "app.granary.server.journal", useDefaultFilters = false,
    includeFilters = @ComponentScan.Filter(type = FilterType.REGEX, pattern = ".*\\.(Journal|SealOldLines|JournalEndFile)"))
class JournalUnderLoad {
    private static final int THREADS = 4;

    @Bean
    Clock clock() {
        return Clock.systemUTC();
    }

    /** @param args the round, then Spring's own */
    public static void main(String[] args) {
        ConfigurableApplicationContext context = new SpringApplicationBuilder(JournalUnderLoad.class).web(WebApplicationType.NONE)
            .run(args);
        Journal journal = context.getBean(Journal.class);
        System.out.println("up");
        for (int t = 0; t < THREADS; t++) {
            String name = args[0] + "-" + t + "-";
            new Thread(() -> {
                for (int i = 0;; i++) {
                    journal.add("ada", "note", "kill test", Journal.Result.NOTE, name + i);
                    System.out.println("done " + name + i + " whole");
                }
            }).start();
        }
    }
}
