package app.granary.core.today;

import app.granary.core.cover.Cover;
import app.granary.core.destination.PlaceKind;
import app.granary.core.reconciliation.Difference;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Everything the morning's list is made of.
 *
 * @param now            the moment it is made
 * @param journalMissing lines of the journal that are gone, in a sentence; empty when none is
 * @param journalFailing why the journal's end cannot be noted; empty when it can
 * @param damaged        copies whose last check found damage, without those that are missing
 * @param missingOn      of images that are missing, by the drive of each {@link Difference.Kind#MISSING}, their identities
 * @param capturing      disks of which an image is being made, or waits to be
 * @param databaseCopied when Granary's database was last copied; empty for never
 * @param silent         computers that joined by their agents and of which nothing was heard for a day
 */
public record TodayFacts(Instant now, Optional<String> journalMissing, Optional<String> journalFailing, List<Unsigned> unsigned,
    List<Damaged> damaged, List<Difference> differences,
    Map<String, List<String>> missingOn, List<Disk> disks, Set<String> capturing, List<Unfinished> unfinished, List<Trouble> troubles,
    List<Unreleased> unreleased, List<Drive> drives,
    List<Medium> media, List<Computer> computers, Optional<Instant> databaseCopied, List<Silent> silent) {
    /**
     * A disk that was written and waits for a person.
     *
     * @param failed whether it did not come to its end
     */
    public record Unsigned(String computer, String imageName, String target, boolean failed, String outcome) {
    }

    /** A copy that is damaged, and what can be done. */
    public record Damaged(String copyId, String imageId, String name, String destination, WayOut way) {
    }

    /**
     * A disk of the office.
     *
     * @param planned    whether a plan says when its next image is wanted
     * @param dueTonight whether that is tonight
     * @param words      how it stands, as {@link Cover} says it
     * @param places     what is missing of two kinds of place; an empty string when nothing is
     */
    public record Disk(String computerId, String computer, String name, String id, Cover.State state, boolean planned, boolean dueTonight,
        String words, String places) {
    }

    /**
     * A capture that did not come to its end.
     *
     * @param disk      as people know it; an empty string when it is not known
     * @param why       it ended; an empty string when that is not known
     * @param doneShare 0 to 1
     */
    public record Unfinished(String disk, String name, String why, boolean carryable, double doneShare) {
    }

    /**
     * A run that failed, or waits for a person.
     *
     * @param kind of work, as a word
     */
    public record Trouble(String runId, String subject, String kind, String imageName, boolean waits, String outcome) {
    }

    /** An image that could not be released. */
    public record Unreleased(String imageName, String trouble) {
    }

    /**
     * A drive with its place.
     *
     * @param since    when it was noted to lie there
     * @param rotation the group it takes turns in; an empty string for none
     * @param newest   when the newest image on it was made; {@link Instant#EPOCH} for none
     */
    public record Drive(String id, String name, boolean attached, PlaceKind place, Instant since, String rotation, Instant newest) {
    }

    /** A rescue medium that should be tried. */
    public record Medium(String name, String why) {
    }

    /** @param heardAt when it was last heard of */
    public record Silent(String name, Instant heardAt) {
    }

    /**
     * A computer that a plan is for.
     *
     * @param filesSaved when somebody last noted that its files were saved; empty for never
     */
    public record Computer(String id, String name, Optional<LocalDate> filesSaved) {
    }
}
