package app.granary.server;

import app.granary.server.database.Commands;
import app.granary.server.home.StartCommand;
import app.granary.server.home.StartTrouble;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.ServiceLoader;
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
        for (StartCommand each : ServiceLoader.load(StartCommand.class)) {
            if (each.is(args)) {
                each.run(args);
                return;
            }
        }
        try {
            SpringApplication.run(Server.class, args);
        } catch (SpringApplication.AbandonedRunException asked) {
            throw asked;
        } catch (RuntimeException | Error ended) {
            System.exit(refused(ended));
        }
    }

    /** A sentence for what a person can repair; for a fault of the program itself also where it came from. */
    private static int refused(Throwable ended) {
        Optional<String> sentence = StartTrouble.sentence(ended);
        System.err.println(sentence.orElse("Granary could not start, by a fault of its own. Please report what follows."));
        if (sentence.isEmpty()) {
            ended.printStackTrace();
        }
        return 2;
    }
}
