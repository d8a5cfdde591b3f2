package app.granary.core.today;

import java.util.List;
import java.util.Locale;

/**
 * Something that needs a person.
 *
 * @param kind   what it is about
 * @param title  the same for people
 * @param reason why, and what to do
 * @param about  the identity of what it is about, by which a screen finds the page that tells more; an empty string where the kind says all
 * @param deed   what can be done about it at once
 * @param label  the same for people; an empty string for nothing
 * @param with   identities it is done with, in the order the deed wants them
 */
public record Todo(Kind kind, String title, String reason, String about, Deed deed, String label, List<String> with) {
    /** In no order; {@link Todos} has the order. */
    public enum Kind {
        /** Lines of the journal are missing, or their loss could not be noticed. */
        JOURNAL,
        /** A restore that is not back, or not signed. */
        RESTORE,
        /** A copy whose last check found damage. */
        DAMAGED,
        /** Images that are not where they were put. */
        MISSING,
        /** A disk that has no image and no plan. */
        NEVER,
        /** A disk none of whose images is proven. */
        UNPROVEN,
        /** A capture that did not come to its end. */
        UNFINISHED,
        /** A run that waits for its passphrase. */
        WAITING,
        /** A run that failed. */
        FAILED,
        /** A disk whose plan wanted an image before tonight. */
        OVERDUE,
        /** A release that could not be carried out. */
        RELEASE,
        /** Images on a drive that nobody knows. */
        UNKNOWN,
        /** Something in a trash that nobody knows. */
        TRASH,
        /** A drive that is not where it is noted to be. */
        PLACE,
        /** A drive whose turn it is to be carried away. */
        ROTATION,
        /** Disks whose images lie in too few places. */
        PLACES,
        /** A rescue medium that should be tried. */
        MEDIUM,
        /** A computer that joined and has gone silent. */
        SILENT,
        /** Computers whose files may not be saved. */
        FILES,
        /** Granary's own database has no copy. */
        COPY;

        /** The word on the wire. */
        public String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** What can be done from the line itself. */
    public enum Deed {
        NOTHING, REPAIR, RELEASE, WRITE_OFF, CHECK_DISK, SEEN, RELEASE_AGAIN, HERE, OFF_SITE, FILES_SAVED, COPY_DATABASE;

        /** The word on the wire; an empty string for nothing. */
        public String word() {
            return this == NOTHING ? "" : name().toLowerCase(Locale.ROOT).replace('_', '-');
        }
    }

    public Todo {
        with = List.copyOf(with);
    }

    static Todo of(Kind kind, String title, String reason) {
        return new Todo(kind, title, reason, "", Deed.NOTHING, "", List.of());
    }

    Todo about(String id) {
        return new Todo(kind, title, reason, id, deed, label, with);
    }

    Todo doing(Deed what, String called, String... ids) {
        return doing(what, called, List.of(ids));
    }

    Todo doing(Deed what, String called, List<String> ids) {
        return new Todo(kind, title, reason, about, what, called, ids);
    }
}
