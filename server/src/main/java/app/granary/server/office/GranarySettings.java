package app.granary.server.office;

import java.nio.file.Path;
import java.time.Instant;
import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * How this Granary was started.
 *
 * @param home folder that holds the database, raw files and images
 * @param demo whether the office is the simulated one
 * @param history whether the simulated office has a past of three months
 * @param now     for the simulated office: the moment its clock shows at the start, for tests and pictures; null for the real one
 * @param past    where the simulated office keeps what its past is made from, for homes to come; null for its own folder
 * @param pace for the simulated office: 1 is its usual pace, more is quicker
 */
@ConfigurationProperties("granary")
public record GranarySettings(Path home, boolean demo, double pace, boolean history, Path past, Instant now) {
}
