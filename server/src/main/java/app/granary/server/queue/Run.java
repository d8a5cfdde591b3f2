package app.granary.server.queue;

import java.time.Instant;
import java.time.LocalDate;
import java.util.Locale;
import java.util.UUID;

/**
 * One piece of long work as it stands: waiting, under way or ended. What all kinds have in common; what each was asked for is its order.
 */
public interface Run {
    /** What is done. */
    enum Kind {
        /** A disk to an image. */
        CAPTURE,
        /** A copy of an image against its digests. */
        CHECK,
        /** An image to one more destination. */
        COPY,
        /** A damaged copy from one that is not. */
        REPAIR,
        /** An image onto a disk. */
        RESTORE,
        /** A disk onto another. */
        SPARE,
        /** A file onto a stick. */
        STICK,
        /** A stick to a file, byte for byte. */
        KEEP,
        /** An image in folders for discs. */
        DISCS,
        /** A drive is made ready. */
        PREPARE,
        /** An image onto scratch, started there. */
        REHEARSAL;

        /** Whether it overwrites a disk that a person confirmed. */
        boolean overwrites() {
            return this == RESTORE || this == SPARE || this == STICK || this == PREPARE;
        }

        public String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** Where it stands. */
    enum State {
        QUEUED, RUNNING, DONE, STOPPED, FAILED;

        public String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** What a queued run waits for. */
    enum Waits {
        /** Its time, or nothing that is known yet. */
        NOTHING,
        /** A person with its passphrase. */
        PASSPHRASE,
        /** A computer that is not here yet. */
        COMPUTER,
        /** A device that another run holds. */
        DEVICE,
        /** That fewer runs are under way. */
        TURN;

        public String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    UUID id();

    Kind kind();

    State state();

    Waits waits();

    /** Name of the computer it is about, as it was when it was asked for. */
    String computer();

    /** Of the disk it is about; an empty string for none. */
    String diskId();

    String disk();

    /** What it works with besides: the drive the image lies on or goes to, or the target. */
    String destinationId();

    String destination();

    /** Of the image, or of the file. */
    String imageName();

    /** The copy it is about, or the one it made; null for none. */
    UUID copyId();

    /** When it began; when it was asked for while it waits. */
    Instant begunAt();

    String begunBy();

    /** Null until it has ended. */
    Instant endedAt();

    /** When a person took note that it failed; null while nobody did. */
    Instant seenAt();

    /** Likely written; 0 when that is not known. */
    long likelyBytes();

    /** As it was estimated; 0 when it was not. */
    double lowSeconds();

    double highSeconds();

    long storedBytes();

    /** How it went, or what it waits for, as a sentence. */
    String outcome();

    /** Whether it failed because what it read is damaged, which is told of with the image. */
    boolean foundDamage();

    boolean encrypted();

    /** Whether it gives way to other work. */
    boolean lowPriority();

    /** Null when it is of no night. */
    LocalDate night();

    /** Null when it is of no plan. */
    UUID planId();

    /** Not before; null when it starts as soon as it can. */
    Instant startsAt();

    /** The disk it is about, as the journal names it. */
    default String subject() {
        return computer() + " " + disk();
    }
}
