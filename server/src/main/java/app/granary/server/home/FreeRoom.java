package app.granary.server.home;

import app.granary.core.measure.Sizes;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.actuate.health.Health;
import org.springframework.boot.actuate.health.HealthIndicator;
import org.springframework.stereotype.Component;

/**
 * Room on the drive Granary keeps its own data on. A file of zeros holds some for the database; when the drive fills it is given up, so
 * that what is under way can still be written down, and what begins is refused with the truth until there is room again.
 */
@Component
public class FreeRoom implements HealthIndicator {
    /** For the database: a month of an office's work is some megabytes (measured on the demo's three months). */
    private static final long RESERVE_BYTES = 64_000_000;
    private static final Logger LOG = LoggerFactory.getLogger(FreeRoom.class);

    private final Path home;
    private final Path reserve;
    private final Lookout lookout;
    private volatile boolean full;

    FreeRoom(@Value("${granary.home}") Path home) {
        this.home = home;
        this.reserve = home.resolve("db").resolve("reserve");
        this.lookout = new Lookout("granary-room", this::look);
    }

    @PreDestroy
    void stop() {
        lookout.close();
    }

    private long freeBytes() throws IOException {
        return Files.getFileStore(home).getUsableSpace();
    }

    /** Looks, gives the reserve up or takes it again; every second. */
    synchronized void look() {
        try {
            long free = freeBytes();
            boolean held = Files.exists(reserve);
            if (held && free < RESERVE_BYTES / 2) {
                Files.delete(reserve);
                tell(true, free);
            } else if (!held && free > RESERVE_BYTES * 2) {
                hold();
                tell(false, free);
            } else if (!held) {
                tell(true, free);
            }
        } catch (IOException failed) {
            LOG.warn("room in {} could not be looked at: {}", home, failed.getMessage());
        }
    }

    private void tell(boolean now, long free) {
        if (full != now) {
            LOG.warn(now ? "{} is full: {} left; changes are refused until there is room" : "{} has room again: {} free", home,
                Sizes.decimal(free));
        }
        full = now;
    }

    private void hold() throws IOException {
        Path partial = reserve.resolveSibling("reserve.partial");
        byte[] zeros = new byte[1 << 20];
        try (OutputStream out = Files.newOutputStream(partial)) {
            for (long written = 0; written < RESERVE_BYTES; written += zeros.length) {
                out.write(zeros);
            }
        } catch (IOException filledMeanwhile) {
            Files.deleteIfExists(partial);
            throw filledMeanwhile;
        }
        Files.move(partial, reserve, java.nio.file.StandardCopyOption.ATOMIC_MOVE);
    }

    /** Why nothing new is taken on; empty while there is room. */
    public Optional<String> trouble() {
        return full ? Optional.of("The drive Granary keeps its own data on is full (" + home
            + "). Nothing was changed. Make room there, and try again; what is kept stays.") : Optional.empty();
    }

    @Override
    public Health health() {
        return full ? Health.down().withDetail("room", "full").build() : Health.up().build();
    }
}
