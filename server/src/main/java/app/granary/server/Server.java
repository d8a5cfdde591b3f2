package app.granary.server;

import app.granary.server.database.Commands;
import java.time.Clock;
import java.util.List;
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
        SpringApplication.run(Server.class, args);
    }
}
