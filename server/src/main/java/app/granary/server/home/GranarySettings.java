package app.granary.server.home;

import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;

/**
 * How this Granary was started.
 *
 * @param home        folder that holds the database, raw files and images
 * @param demo        whether the office is the simulated one
 * @param history     whether the simulated office has a past of three months
 * @param now         for the simulated office: the moment its clock shows at the start, for tests and pictures; null for the real one
 * @param past        where the simulated office keeps what its past is made from, for homes to come; null for its own folder
 * @param pace        for the simulated office: 1 is its usual pace, more is quicker
 * @param deviceTypes kinds of this machine's devices that count as disks, as lsblk calls them; {@code disk} alone when none is named. A
 *                    machine whose disks come as {@code mpath}, or a person who tries Granary on {@code loop} devices, names them too
 * @param listen      where other computers may join, ADDRESS[:PORT]; an empty string for nowhere
 * @param screensToo  whether pages are answered at the address of {@code listen} too, over TLS, on a port of their own
 * @param screensPort that port; 0 for any that is free
 * @param destinations folders that are destinations, with what is mounted in them; network folders are, wherever they are mounted
 * @param hosts       names this Granary goes by besides the address it listens on, without ports; empty for none
 */
@ConfigurationProperties("granary")
public record GranarySettings(Path home, boolean demo, double pace, boolean history, Path past, Instant now, Set<String> deviceTypes,
    String listen, boolean screensToo, @DefaultValue("8472") int screensPort, Set<String> hosts,
    List<Path> destinations) {
    public GranarySettings {
        listen = listen == null ? "" : listen.strip();
        deviceTypes = deviceTypes == null || deviceTypes.isEmpty() ? Set.of("disk") : Set.copyOf(deviceTypes);
        destinations = destinations == null ? List.of() : destinations.stream().map(Path::toAbsolutePath).map(Path::normalize).toList();
        hosts = hosts == null ? Set.of() : Set.copyOf(hosts);
    }
}
