package app.granary.server.queue;

import java.time.Instant;
import java.time.LocalDate;
import java.util.Optional;
import java.util.UUID;

/**
 * A run that is asked for.
 *
 * @param about       what it is about and works with
 * @param imageName   of the image, or of the file
 * @param copyId      empty when it is about none
 * @param expected    what is known beforehand
 * @param encrypted   whether what it reads or writes is encrypted
 * @param lowPriority whether it gives way to other work
 * @param ofNight     empty for one asked for by hand
 */
public record NewRun(UUID id, Run.Kind kind, About about, String imageName, Optional<UUID> copyId, Expected expected, boolean encrypted,
    boolean lowPriority, Optional<OfNight> ofNight) {
    /**
     * @param computer      whose disk it is about
     * @param diskId        that disk; an empty string for none
     * @param destinationId the drive the image lies on or goes to, or the target
     */
    public record About(String computer, String diskId, String disk, String destinationId, String destination) {
    }

    /**
     * @param bytes      likely written; 0 when that is not known
     * @param lowSeconds 0 when that is not known
     */
    public record Expected(long bytes, double lowSeconds, double highSeconds) {
        public static final Expected NOTHING = new Expected(0, 0, 0);
    }

    /**
     * @param night  null for none
     * @param planId null for none
     * @param start  not before; null for as soon as it can
     */
    public record OfNight(LocalDate night, UUID planId, Instant start) {
    }

    public static NewRun of(Run.Kind kind, About about, String imageName) {
        return new NewRun(UUID.randomUUID(), kind, about, imageName, Optional.empty(), Expected.NOTHING, false, false, Optional.empty());
    }

    /** With an identity that was given to it before. */
    public NewRun as(UUID given) {
        return new NewRun(given, kind, about, imageName, copyId, expected, encrypted, lowPriority, ofNight);
    }

    public NewRun ofCopy(UUID copy) {
        return new NewRun(id, kind, about, imageName, Optional.of(copy), expected, encrypted, lowPriority, ofNight);
    }

    public NewRun expecting(long bytes, double lowSeconds, double highSeconds) {
        return new NewRun(id, kind, about, imageName, copyId, new Expected(bytes, lowSeconds, highSeconds), encrypted, lowPriority,
            ofNight);
    }

    public NewRun encrypted(boolean secret) {
        return new NewRun(id, kind, about, imageName, copyId, expected, secret, lowPriority, ofNight);
    }

    public NewRun lowPriority(boolean low) {
        return new NewRun(id, kind, about, imageName, copyId, expected, encrypted, low, ofNight);
    }

    public NewRun inNight(LocalDate night, UUID planId, Instant start) {
        return new NewRun(id, kind, about, imageName, copyId, expected, encrypted, lowPriority,
            Optional.of(new OfNight(night, planId, start)));
    }
}
