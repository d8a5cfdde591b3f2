package app.granary.server.office;

import java.nio.file.Path;
import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * How this Granary was started.
 *
 * @param home folder that holds the database, raw files and images
 * @param demo whether the office is the simulated one
 * @param pace for the simulated office: 1 is its usual pace, more is quicker
 */
@ConfigurationProperties("granary")
public record GranarySettings(Path home, boolean demo, double pace) {
}
