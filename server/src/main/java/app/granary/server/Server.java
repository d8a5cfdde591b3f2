package app.granary.server;

import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;

/** Entry point of the web application. */
@SpringBootApplication
@ConfigurationPropertiesScan
public class Server {
    public static void main(String[] args) {
        SpringApplication.run(Server.class, args);
    }
}
