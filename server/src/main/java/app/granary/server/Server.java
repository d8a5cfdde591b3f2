package app.granary.server;

import app.granary.server.database.Commands;
import app.granary.server.home.StartTrouble;
import app.granary.server.office.SiteConfiguration;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;
import org.springframework.scheduling.annotation.EnableScheduling;

/** Entry point of the web application, and of what can be done with its data while it does not run. */
@SpringBootApplication
@ConfigurationPropertiesScan
@EnableScheduling
public class Server {
    public static void main(String[] args) {
        if (Commands.are(args)) {
            System.exit(Commands.run(List.of(args), Clock.systemUTC(), System.out, System.err));
        }
        if (args.length == 3 && args[0].equals("prepare-past")) {
            preparePast(Path.of(args[1]), Path.of(args[2]));
            return;
        }
        try {
            SpringApplication.run(Server.class, args);
        } catch (SpringApplication.AbandonedRunException asked) {
            throw asked;
        } catch (RuntimeException | Error ended) {
            System.exit(refused(ended));
        }
    }

    /** A sentence for what a person can mend; for a fault of the program itself also where it came from. */
    private static int refused(Throwable ended) {
        Optional<String> sentence = StartTrouble.sentence(ended);
        System.err.println(sentence.orElse("Granary could not start, by a fault of its own. Please report what follows."));
        if (sentence.isEmpty()) {
            ended.printStackTrace();
        }
        return 2;
    }

    /** Captures the simulated office's disks once, when it is built, so that its start need not. */
    private static void preparePast(Path home, Path past) {
        try {
            SiteConfiguration.preparePast(home, past);
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }
}
