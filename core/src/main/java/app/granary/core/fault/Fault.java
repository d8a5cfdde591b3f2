package app.granary.core.fault;

import java.util.Objects;
import java.util.OptionalLong;

/**
 * One fault found in what was read, or met while reading or writing.
 *
 * @param kind        what sort of fault; decides the exit code and the problem type
 * @param device      the device, file or bag part it was met on, as the person knows it
 * @param offsetBytes byte offset on that device, or empty when the fault has no single place
 * @param expected    what a sound device would have held, or an empty string
 * @param found       what was there instead, or an empty string
 * @param sentence    what happened, where, and what to do, ready to be shown
 */
public record Fault(Kind kind, String device, OptionalLong offsetBytes, String expected, String found, String sentence) {

    /** The sorts of fault, as stable words for the wire. */
    public enum Kind {
        /** The bytes contradict their own format. */
        DAMAGED,
        /** The bytes may be sound, but Granary cannot read them. */
        UNSUPPORTED,
        /** The file is no disk, or the folder no image. */
        NOT_RECOGNISED,
        /** The destination has too little room, before or during a run. */
        NO_ROOM,
        /** The destination may not be used for this source. */
        FORBIDDEN,
        /** A name, number or choice that cannot be used. */
        BAD_CHOICE,
        /** The device, or the operating system under it, failed. */
        DEVICE_FAILED,
        /** Its parts are encrypted, and the passphrase is missing or wrong. */
        LOCKED,
        /** A person stopped the work. */
        STOPPED;

        /** The word used on the wire and in problem types: lower case with hyphens. */
        public String word() {
            return name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
        }
    }

    public Fault {
        Objects.requireNonNull(kind, "kind");
        Objects.requireNonNull(device, "device");
        Objects.requireNonNull(offsetBytes, "offsetBytes");
        Objects.requireNonNull(expected, "expected");
        Objects.requireNonNull(found, "found");
        Objects.requireNonNull(sentence, "sentence");
    }

    /** A fault without a place or a comparison. */
    public static Fault of(Kind kind, String device, String sentence) {
        return new Fault(kind, device, OptionalLong.empty(), "", "", sentence);
    }

    /** Damage at one place, with what was expected and what was found there. */
    public static Fault damaged(String device, long offsetBytes, String expected, String found, String sentence) {
        return new Fault(Kind.DAMAGED, device, OptionalLong.of(offsetBytes), expected, found, sentence);
    }

    /** This fault as an exception, for callers that cannot go on. */
    public FaultException asException() {
        return new FaultException(this);
    }
}
