package app.granary.demo;

import java.util.List;
import java.util.Map;

/**
 * What happened in the made-up office over the last three months. All invented. Images are counted in nights of their plan, back from the
 * newest.
 */
final class PastScript {
    static final int DAYS = 92;

    /**
     * An image.
     *
     * @param night  0 for the last night its plan wanted one, 1 for the one before
     * @param copyTo another destination it was copied to five hours later; an empty string for none
     */
    record Taken(String diskId, int night, String destinationId, String copyTo) {
    }

    /** Something a person did, so many days ago. */
    record Deed(int daysAgo, String kind, String subject, String text) {
    }

    static final List<Taken> TAKEN = List.of(
        new Taken("meridian", 0, "peg-1", ""), new Taken("meridian", 1, "peg-2", ""), new Taken("meridian", 6, "cairn", "outpost"),
        new Taken("ledger", 0, "cairn", ""), new Taken("ledger", 1, "cairn", ""), new Taken("ledger", 2, "cairn", ""),
        new Taken("ledger", 3, "cairn", "peg-2"), new Taken("ledger", 4, "cairn", ""),
        new Taken("ledger", 9, "cairn", "outpost"), new Taken("ledger", 22, "cairn", ""), new Taken("ledger", 44, "cairn", ""),
        new Taken("contour-1", 0, "cairn", ""), new Taken("contour-1", 4, "cairn", "outpost"),
        new Taken("contour-2", 0, "cairn", "outpost"), new Taken("datum-2", 0, "cairn", "outpost"),
        new Taken("datum-1", 0, "peg-1", ""), new Taken("datum-1", 1, "cairn", ""), new Taken("datum-1", 2, "cairn", ""),
        new Taken("datum-1", 3, "cairn", ""), new Taken("datum-1", 6, "cairn", "outpost"),
        new Taken("datum-1", 7, "cairn", ""), new Taken("datum-1", 11, "cairn", ""), new Taken("gnomon", 0, "cairn", "outpost"),
        new Taken("gnomon", 1, "peg-3", ""), new Taken("gnomon", 2, "peg-3", ""),
        new Taken("isobar", 0, "cairn", "outpost"), new Taken("isobar", 1, "cairn", ""), new Taken("isobar", 2, "cairn", ""),
        new Taken("isobar", 3, "cairn", ""), new Taken("isobar", 5, "cairn", ""),
        new Taken("isobar", 9, "cairn", ""), new Taken("plumb", 0, "cairn", ""), new Taken("plumb", 1, "cairn", "outpost"),
        new Taken("plumb", 2, "cairn", ""), new Taken("plumb", 3, "cairn", ""),
        new Taken("plumb", 6, "cairn", ""), new Taken("plumb", 9, "cairn", ""), new Taken("theodolite", 3, "cairn", "outpost"),
        new Taken("theodolite", 8, "cairn", ""), new Taken("tripod", 6, "cairn", "outpost"));

    /**
     * Kinds: "note", "place" (subject is the destination, text its kind of place and where), "files" (subject the computer), "full" (a
     * capture that found its drive full), "spoilt".
     */
    static final List<Deed> DEEDS = List.of(
        new Deed(92, "note", "", "Granary keeps this office's images from today on. What lay on CAIRN before is added as it is."),
        new Deed(91, "place", "cairn", "here;cupboard by the stairs"),
        new Deed(91, "place", "shelf", "here;in DATUM"), new Deed(91, "place", "outpost", "off-site;bank, box 12"),
        new Deed(91, "place", "peg-3", "here;drawer"), new Deed(88, "place", "peg-1", "here;desk"),
        new Deed(88, "place", "peg-2", "safe;shelf 2"), new Deed(81, "place", "peg-1", "safe;shelf 2"),
        new Deed(81, "place", "peg-2", "here;desk"),
        new Deed(60, "note", "",
            "ALIDADE, the old front desk, was replaced by PLUMB. Its last image stays in the envelope with the contract."),
        new Deed(47, "place", "peg-1", "here;desk"), new Deed(47, "place", "peg-2", "safe;shelf 2"),
        new Deed(82, "medium", "KEY-A", "TS-16-000A;Larch rescue 12;drawer of the bench"),
        new Deed(82, "medium", "KEY-B", "TS-16-000B;Larch rescue 12;fire safe"),
        new Deed(82, "medium", "KEY-D", "TS-08-000D;Larch rescue 9;bag of the field crew;1700"),
        new Deed(79, "tried", "KEY-D", "PLUMB"),
        new Deed(80, "tried", "KEY-A", "TRIPOD,MERIDIAN,CONTOUR,LEDGER,DATUM"), new Deed(55, "tried", "KEY-B", "PLUMB,GNOMON"),
        new Deed(33, "retired", "KEY-B", "write errors, worn out"), new Deed(30, "tried", "KEY-A", "PLUMB"),
        new Deed(33, "note", "", "Stick KEY-B gave write errors and is worn out: thrown away. KEY-A stays; buy another."),
        new Deed(26, "place", "peg-1", "safe;shelf 2"), new Deed(26, "place", "peg-2", "here;desk"),
        new Deed(19, "full", "meridian", "peg-2"),
        new Deed(18, "note", "", "PEG-2 was filled by scans of somebody else. Moved them to DATUM."),
        new Deed(12, "place", "peg-1", "here;desk"), new Deed(12, "place", "peg-2", "safe;shelf 2"),
        new Deed(6, "files", "", "to DATUM, every evening"), new Deed(2, "spoilt", "ledger", "peg-2"),
        new Deed(1, "full", "plumb", "peg-3"));

    /** Computers whose files nobody saved of late, with how many days ago. */
    static final Map<String, Integer> FILES_OLD = Map.of("PLUMB", 40);

    private PastScript() {
    }
}
