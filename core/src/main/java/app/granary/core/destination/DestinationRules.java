package app.granary.core.destination;

import app.granary.core.machine.Route;
import app.granary.core.measure.Durations;
import app.granary.core.measure.Sizes;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;

/** Weighs destinations against an image: hard rules first, then a lexicographic ranking that is printed as such. */
public final class DestinationRules {
    /** What an image on the disk itself is good for, and what it is not. */
    public static final String ROLL_BACK = "A quick roll-back image: it undoes a change that went wrong, and is lost with the disk. It "
        + "counts for nothing else. To go back to it, copy it to another drive and restore it from there.";

    private DestinationRules() {
    }

    /** All destinations, the fit ones first and ranked, the unfit ones after them by name. */
    public static List<DestinationAssessment> assess(ImageNeed need, List<Destination> destinations) {
        List<DestinationAssessment> fit = new ArrayList<>();
        List<DestinationAssessment> unfit = new ArrayList<>();
        for (Destination destination : destinations) {
            DestinationAssessment assessment = assess(need, destination);
            (assessment.fit() ? fit : unfit).add(assessment);
        }
        fit.sort(Comparator.comparing(DestinationAssessment::rollBack).thenComparing((DestinationAssessment a) -> holdsCopy(need,
            a)).thenComparing(DestinationRules::ailing)
            .thenComparingLong(a -> seconds(need, a)).thenComparing(
                Comparator.comparingLong(DestinationAssessment::roomAfterBytes).reversed())
            .thenComparing(a -> a.destination().name()));
        unfit.sort(Comparator.comparing(a -> a.destination().name()));
        List<DestinationAssessment> out = new ArrayList<>();
        for (int i = 0; i < fit.size(); i++) {
            DestinationAssessment each = fit.get(i);
            out.add(each.ranked(i + 1,
                each.rollBack() ? "After all others: " + each.destination().name() + " lies on the disk itself."
                    : "Ranked by these in turn, the first that differs decides: apart from other images of this disk ("
                    + (holdsCopy(need, each) ? "no, it holds one" : "yes")
                    + "); health (" + (ailing(each) ? each.destination().notes().health() : "nothing noted") + "); time over its link ("
                    + Durations.length(seconds(need, each)) + " to write); room left ("
                    + Sizes.decimal(each.roomAfterBytes()) + ")."));
        }
        out.addAll(unfit);
        return Collections.unmodifiableList(out);
    }

    /** One destination against the hard rules; every rule is applied, so that all reasons are told at once. */
    public static DestinationAssessment assess(ImageNeed need, Destination destination) {
        List<RuleOutcome> rules = List.of(notItself(need, destination), attached(destination),
            room(need, destination), fileSize(need, destination), encrypted(need, destination), mayUse(need, destination));
        long after = destination.unpromisedBytes() - destination.reserveBytes() - need.highBytes();
        return new DestinationAssessment(destination, rules, after, 0, "", rollBack(need, destination));
    }

    private static long seconds(ImageNeed need, DestinationAssessment assessment) {
        return need.likelyBytes() / route(need, assessment.destination()).slowed(assessment.destination().writeRateBytes());
    }

    private static boolean holdsCopy(ImageNeed need, DestinationAssessment assessment) {
        return need.circumstances().copiesOn().contains(assessment.destination().id());
    }

    private static boolean ailing(DestinationAssessment assessment) {
        return !assessment.destination().notes().health().isEmpty();
    }

    private static RuleOutcome encrypted(ImageNeed need, Destination destination) {
        boolean holds = need.circumstances().encrypted() || !need.circumstances().encryptLeaving() || !destination.notes().leavesBuilding();
        return new RuleOutcome("encrypted", holds, 0, 0,
            !holds
                ? destination.name()
                    + " leaves the building, and this office wants images encrypted there. Encrypt the image, or choose another."
                : destination.notes().leavesBuilding()
                    ? destination.name() + " leaves the building"
                        + (need.circumstances().encrypted() ? ", and the image is encrypted." : "; the office asks no encryption.")
                    : destination.name() + " stays in the building.");
    }

    private static RuleOutcome mayUse(ImageNeed need, Destination destination) {
        Map<String, String> only = destination.notes().onlyFor();
        boolean holds = only.isEmpty() || need.circumstances().computerId().isEmpty()
            || only.containsKey(need.circumstances().computerId());
        return new RuleOutcome("may-use", holds, 0, 0,
            holds
                ? (only.isEmpty() ? "Any computer may use " + destination.name() + "." : destination.name() + " is kept for this computer.")
                : destination.name() + " is kept for " + String.join(", ", new TreeSet<>(only.values()))
                    + ". Choose another, or change who may use it.");
    }

    private static boolean onTheDisk(ImageNeed need, Destination destination) {
        return !Collections.disjoint(need.sourceSerials(), destination.diskSerials());
    }

    /**
     * On the disk itself there is room for a quick roll-back image alone, and only beside what is imaged: an image cannot hold the
     * partition it is written to.
     */
    private static boolean rollBack(ImageNeed need, Destination destination) {
        return onTheDisk(need, destination) && destination.diskSerials().size() == 1 && destination.partition().isPresent()
            && need.circumstances().without().contains(destination.partition().getAsInt());
    }

    private static RuleOutcome notItself(ImageNeed need, Destination destination) {
        boolean shares = onTheDisk(need, destination);
        boolean rollBack = rollBack(need, destination);
        return new RuleOutcome("not-itself", !shares || rollBack, 0, 0, rollBack
            ? destination.name() + " is partition " + destination.partition().getAsInt() + " of " + need.sourceName()
                + " itself, which is left out. " + ROLL_BACK
            : shares ? destination.name() + " lies on " + need.sourceName()
                + ", the disk being imaged; an image there would die with it. Choose another drive"
                + (destination.partition().isPresent() ? ", or leave partition " + destination.partition().getAsInt()
                    + " out for a quick roll-back image." : ".")
            : destination.name() + " is another device than " + need.sourceName() + ".");
    }

    private static RuleOutcome attached(Destination destination) {
        boolean holds = destination.attached() && destination.writable();
        return new RuleOutcome("attached", holds, 0, 0, holds ? destination.name() + " is attached and can be written."
            : !destination.attached() ? destination.name() + " is not attached (" + destination.place() + "). Attach it, or choose another."
                : destination.name() + " is attached but cannot be written. Check its lock switch and its permissions.");
    }

    private static Route route(ImageNeed need, Destination destination) {
        return Route.between(need.circumstances().machine(), destination.machine());
    }

    private static RuleOutcome room(ImageNeed need, Destination destination) {
        long asked = need.highBytes() + destination.reserveBytes();
        long allowed = destination.unpromisedBytes();
        boolean holds = asked <= allowed;
        String figures = Sizes.decimal(need.highBytes()) + " at most and " + Sizes.decimal(destination.reserveBytes())
            + " kept in reserve, against "
            + Sizes.decimal(Math.max(0, allowed)) + " free"
            + (destination.promisedBytes() > 0 ? " and " + Sizes.decimal(destination.promisedBytes()) + " more promised already" : "")
            + (destination.ownBytes() > 0 ? ", with " + Sizes.decimal(destination.ownBytes()) + " that this image's run has written" : "");
        return new RuleOutcome("room", holds, asked, allowed, holds ? "Room enough on " + destination.name() + ": " + figures + "."
            : destination.name() + " is " + Sizes.decimal(asked - allowed) + " short: " + figures + ". Make room, or choose another.");
    }

    private static RuleOutcome fileSize(ImageNeed need, Destination destination) {
        long longest = Math.min(need.highBytes(), need.splitBytes().orElse(Long.MAX_VALUE));
        long limit = destination.fileSizeLimitBytes().orElse(Long.MAX_VALUE);
        boolean holds = longest <= limit;
        return new RuleOutcome("file-size", holds, longest, holds && limit == Long.MAX_VALUE ? 0 : limit, holds
            ? "Its file system takes files of that length."
            : "The file system of " + destination.name() + " ends a file at " + limit
                + " bytes. Split the image into parts of at most that.");
    }
}
