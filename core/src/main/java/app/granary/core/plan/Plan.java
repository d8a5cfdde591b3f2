package app.granary.core.plan;

import app.granary.core.retention.Keeping;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;

/**
 * A plan: everything that is needed to make the same image again.
 *
 * @param name         as the technician calls it; unique in the office, case not counted
 * @param source       the disk
 * @param storing      how the image is stored
 * @param destinations the drives it may go to, in the technician's order
 * @param inTurn       whether they take turns, the one with the oldest image of the disk first; otherwise whichever ends first
 * @param rhythm       how often
 * @param window       when it may run
 * @param booted       whether the computer is booted from rescue media for it, which needs a person; a disk in use is not imaged
 * @param naming       how the image is named
 * @param folder       in which folder of its drive it lies; none for the office's choice
 * @param recheckDays  days after which the proof is stale and the image is checked again, 1 to 3650
 * @param afterwards   what becomes of the computer when it has ended
 * @param mailTo       who is told; empty for nobody
 * @param keep         what stays of its images
 * @param checklist    what a person does before the night
 * @param note         anything else, or an empty string
 */
public record Plan(String name, PlanSource source, Storing storing, List<PlanDestination> destinations, boolean inTurn, Rhythm rhythm,
    Window window, boolean booted, NamingPattern naming, FolderPattern folder,
    int recheckDays, Afterwards afterwards, List<String> mailTo, Keeping keep, List<String> checklist, String note) {
    public Plan {
        destinations = List.copyOf(destinations);
        mailTo = List.copyOf(mailTo);
        checklist = List.copyOf(checklist);
    }

    /**
     * Its drives, the one whose turn it is first: without an image of this disk, or with the oldest. In its own order where they take no
     * turns.
     *
     * @param newest of this disk, by drive; none for a drive that has no image of it
     */
    public List<String> drivesInOrder(Map<String, Instant> newest) {
        List<String> ids = destinations.stream().map(PlanDestination::id).toList();
        return inTurn ? ids.stream().sorted(Comparator.comparing((String id) -> newest.getOrDefault(id, Instant.MIN))).toList() : ids;
    }

    /** The same for another disk, under another name: what belongs to the old disk alone, its left-out partitions, does not come along. */
    public Plan copyTo(String newName, PlanSource other) {
        return new Plan(newName, other, storing, destinations, inTurn, rhythm, window, booted, naming, folder, recheckDays,
            afterwards, mailTo, keep, checklist, note);
    }

    /** The same plan of the same disk, as this office knows it. */
    public Plan with(PlanSource known, List<PlanDestination> drives) {
        return new Plan(name, known, storing, drives, inTurn, rhythm, window, booted, naming, folder, recheckDays, afterwards, mailTo, keep,
            checklist, note);
    }
}
