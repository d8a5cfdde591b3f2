package app.granary.engine.line;

import app.granary.core.fault.Fault;
import app.granary.core.machine.Network;
import app.granary.engine.progress.Progress;
import com.fasterxml.jackson.databind.JsonNode;
import java.util.List;
import java.util.UUID;

/**
 * One message on the line between an office and a computer somewhere else. A key names one piece of work for as long as either side knows
 * it: an {@link Ask} that is told again, since the line broke, begins nothing twice.
 */
public sealed interface Message {
    /** From the computer: what it is and has now; whenever that changes. */
    record Here(HostState state) implements Message {
    }

    /** From the computer: what the network to the office carries, by a real transfer after it joined. */
    record Measured(Network network) implements Message {
    }

    /** From the computer: nothing new. */
    record Beat() implements Message {
    }

    /**
     * From the office: one call of a port.
     *
     * @param port      its name: devices, store, shelf, imaging, overwriting, host, lending, files
     * @param of        the destination a shelf is of, or what files are lent under; empty for other ports
     * @param call      the method and its types, as {@code check(ImageAt,ProofLevel,Watch)}
     * @param arguments in order; null in the place of a watch
     */
    record Ask(UUID key, String port, String of, String call, List<JsonNode> arguments) implements Message {
        public Ask {
            arguments = List.copyOf(arguments);
        }
    }

    /**
     * From an office that was started anew: it asked under this key before. The computer tells where that stands, or its end; when it knows
     * nothing of it, nothing is begun, and it is {@link Refused} as not recognised.
     */
    record Again(UUID key) implements Message {
    }

    /** From the office: a person asked it to stop. */
    record Stop(UUID key) implements Message {
    }

    /** From the office: hold it between two pieces of work, or go on. */
    record Hold(UUID key, boolean held) implements Message {
    }

    /** From the computer: a person there holds it, or lets it go on. */
    record Held(UUID key, boolean held) implements Message {
    }

    /**
     * From the computer: at its console somebody typed what confirms that a disk of it may be overwritten, read off the disk itself.
     *
     * @param typed as {@link app.granary.core.target.TargetDisk#confirmation} wants it
     */
    record Typed(String targetId, String typed) implements Message {
    }

    /** From the computer: where long work stands. */
    record Advanced(UUID key, Progress progress) implements Message {
    }

    /** From the computer: it has come to its end. Told until it was {@link Heard}. */
    record Done(UUID key, JsonNode result) implements Message {
    }

    /** From the computer: it could not be done, with the sentence. Told until it was {@link Heard}. */
    record Refused(UUID key, Fault fault) implements Message {
    }

    /** What a folder's calls throw, told so that it can be thrown again at the other end. */
    enum Why {
        MISSING,
        THERE_ALREADY,
        NOT_EMPTY
    }

    /** Of a call of a folder: not done, for a reason that callers tell apart. */
    record NotDone(UUID key, Why why, String path) implements Message {
    }

    /** From the office: the end of it is kept here; the computer may forget it. */
    record Heard(UUID key) implements Message {
    }
}
