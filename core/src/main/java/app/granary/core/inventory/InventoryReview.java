package app.granary.core.inventory;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.measure.Sizes;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;

/**
 * What accepting a report would change. A disk is recognised by its serial, with model and size where two share one; a disk without a
 * serial only within its computer, by model and size. Paths and drive letters never count (common practice, no source).
 *
 * @param changes    in the order of the report
 * @param objections why it cannot be accepted; empty when it can
 * @param matches    every reported disk, in order
 * @param gone       known disks of the reported computers that the report does not mention
 */
public record InventoryReview(List<Change> changes, List<Objection> objections, List<DiskMatch> matches, List<KnownDisk> gone) {
    /** Used bytes move all the time; a difference below this share of the partition is recorded and not called a change. */
    private static final double WORTH_TELLING = 0.01;

    public InventoryReview {
        changes = List.copyOf(changes);
        objections = List.copyOf(objections);
        matches = List.copyOf(matches);
        gone = List.copyOf(gone);
    }

    public boolean acceptable() {
        return objections.isEmpty();
    }

    /**
     * @param computers known computers, retired ones left out
     * @param disks     their disks
     * @param reports   what was reported
     */
    public static InventoryReview of(List<ComputerReport> computers, List<KnownDisk> disks, List<ComputerReport> reports) {
        return new Reviewer(computers, disks, reports).review();
    }

    /** The work of one review. */
    private static final class Reviewer {
        private final List<ComputerReport> computers;
        private final List<KnownDisk> disks;
        private final List<ComputerReport> reports;
        private final List<Change> changes = new ArrayList<>();
        private final List<Objection> objections = new ArrayList<>();
        private final List<DiskMatch> matches = new ArrayList<>();
        private final Set<String> taken = new HashSet<>();
        private final List<KnownDisk> gone = new ArrayList<>();

        Reviewer(List<ComputerReport> computers, List<KnownDisk> disks, List<ComputerReport> reports) {
            this.computers = computers;
            this.disks = disks;
            this.reports = reports;
        }

        InventoryReview review() {
            objectToDoubles();
            // all disks are matched before any is called gone: one may have moved to a computer further down in the report
            Map<DiskReport, Optional<KnownDisk>> found = new java.util.IdentityHashMap<>();
            for (ComputerReport report : reports) {
                report.disks().forEach(disk -> found.put(disk, match(report.name(), disk)));
            }
            for (ComputerReport report : reports) {
                computer(report, found);
            }
            return new InventoryReview(changes, objections, matches, gone);
        }

        private void objectToDoubles() {
            Map<String, Integer> names = new HashMap<>();
            Map<String, DiskReport> identities = new HashMap<>();
            for (ComputerReport report : reports) {
                Integer before = names.putIfAbsent(folded(report.name()), report.line());
                if (before != null) {
                    objections.add(
                        new Objection(report.line(), report.name() + " is reported twice" + atLine(before) + ". Keep one of the two."));
                }
                for (DiskReport disk : report.disks()) {
                    DiskIdentity identity = disk.identity();
                    boolean nameless = identity.serial().isEmpty();
                    String key = (nameless ? folded(report.name()) + "\0" : "") + identity.model() + "\0" + identity.serial() + "\0"
                        + identity.sizeBytes();
                    DiskReport twin = identities.putIfAbsent(key, disk);
                    if (twin != null) {
                        objections.add(new Objection(disk.line(), disk.label() + (nameless
                            ? " is there twice in " + report.name() + atLine(twin.line())
                                + ", and without serials the two cannot be told apart. Attach them directly, not through a bridge that "
                                + "hides the serial, or report one at a time."
                            : " is reported twice" + atLine(twin.line())
                                + ". Two disks never share model, serial and size; keep one of the two.")));
                    }
                }
            }
        }

        private static String atLine(int line) {
            return line > 0 ? " (first on line " + line + ")" : "";
        }

        private Optional<KnownDisk> match(String computer, DiskReport disk) {
            DiskIdentity identity = disk.identity();
            List<KnownDisk> candidates = disks.stream().filter(known -> !taken.contains(known.id()))
                .filter(known -> identity.serial().isEmpty()
                    ? known.disk().identity().same(identity) && folded(known.computer()).equals(folded(computer))
                    : known.disk().identity().serial().equals(identity.serial()))
                .toList();
            // a serial shared by two makes is settled by model and size
            Optional<KnownDisk> best = candidates.stream().filter(known -> known.disk().identity().same(identity)).findFirst()
                .or(() -> candidates.stream().filter(known -> known.disk().identity().model().equals(identity.model())).findFirst())
                .or(() -> candidates.stream().filter(known -> known.disk().identity().sizeBytes() == identity.sizeBytes()).findFirst());
            best.ifPresent(known -> taken.add(known.id()));
            return best;
        }

        private void computer(ComputerReport report, Map<DiskReport, Optional<KnownDisk>> found) {
            Optional<ComputerReport> known = computers.stream().filter(c -> folded(c.name()).equals(folded(report.name()))).findFirst();
            if (known.isPresent()) {
                facts(known.get(), report);
            } else {
                add(Change.Kind.NEW_COMPUTER, report.name(), "",
                    report.name() + " is new, with " + count(report.disks().size(), "disk") + ".", report.line());
            }
            List<KnownDisk> missing = new ArrayList<>(disks.stream()
                .filter(d -> report.complete() && folded(d.computer()).equals(folded(report.name())) && !taken.contains(d.id())).toList());
            for (DiskReport disk : report.disks()) {
                Optional<KnownDisk> match = found.get(disk);
                matches.add(new DiskMatch(report.name(), disk, match));
                if (match.isPresent()) {
                    compare(report, match.get(), disk);
                } else if (known.isPresent()) {
                    newDisk(report, disk, missing);
                }
            }
            for (KnownDisk each : missing) {
                gone.add(each);
                add(Change.Kind.DISK_GONE, report.name(), each.disk().label(),
                    each.disk().label() + " is no longer in " + report.name() + ". Its images stay.", report.line());
            }
        }

        private void newDisk(ComputerReport report, DiskReport disk, List<KnownDisk> missing) {
            if (missing.isEmpty()) {
                add(Change.Kind.NEW_DISK, report.name(), disk.label(), disk.label() + " is new in " + report.name() + ".", disk.line());
            } else {
                KnownDisk old = missing.remove(0);
                gone.add(old);
                add(Change.Kind.DISK_SWAPPED, report.name(), disk.label(), old.disk().label() + " was swapped for " + disk.label()
                    + ". Images of the old disk stay; the new one has none yet.", disk.line());
            }
        }

        private void facts(ComputerReport known, ComputerReport report) {
            fact(report, "operating system", known.operatingSystem(), report.operatingSystem());
            fact(report, "maker", known.maker(), report.maker());
            fact(report, "model", known.model(), report.model());
            if (report.firmware() != Firmware.UNKNOWN) {
                fact(report, "firmware", known.firmware().word(), report.firmware().word());
            }
            report.secureBoot()
                .ifPresent(on -> fact(report, "secure boot", known.secureBoot().map(Reviewer::onOff).orElse("unknown"), onOff(on)));
        }

        private static String onOff(boolean on) {
            return on ? "on" : "off";
        }

        private void fact(ComputerReport report, String what, String before, String after) {
            if (!after.isEmpty() && !after.equals(before)) {
                add(Change.Kind.FACT_CHANGED, report.name(), "",
                    "The " + what + " of " + report.name() + (before.isEmpty() || before.equals("unknown") ? " is " + after + "."
                        : " was " + before + " and is now " + after + "."),
                    report.line());
            }
        }

        private void compare(ComputerReport report, KnownDisk known, DiskReport now) {
            String label = now.label();
            if (!folded(known.computer()).equals(folded(report.name()))) {
                add(Change.Kind.DISK_MOVED, report.name(), label,
                    label + " was in " + known.computer() + " and is now in " + report.name() + ".", now.line());
            }
            if (known.disk().identity().sizeBytes() != now.identity().sizeBytes()) {
                add(Change.Kind.FACT_CHANGED, report.name(), label,
                    "The disk with serial " + now.identity().serial() + " was " + sizes(known.disk().identity().sizeBytes(),
                        now.identity().sizeBytes()) + ". Make sure that it is the same disk.",
                    now.line());
            }
            for (PartitionReport before : known.disk().partitions()) {
                if (now.partition(before.number()).isEmpty()) {
                    add(Change.Kind.PARTITION_GONE, report.name(), label,
                        before.label() + ", " + Sizes.decimal(before.sizeBytes()) + ", is gone from " + label + ".", now.line());
                }
            }
            for (PartitionReport after : now.partitions()) {
                Optional<PartitionReport> before = known.disk().partition(after.number());
                if (before.isPresent()) {
                    partition(report, label, before.get(), after, now.line());
                } else {
                    add(Change.Kind.PARTITION_NEW, report.name(), label,
                        after.label() + ", " + Sizes.decimal(after.sizeBytes()) + ", is new on " + label + ".", now.line());
                }
            }
        }

        private void partition(ComputerReport report, String label, PartitionReport before, PartitionReport after, int line) {
            if (before.sizeBytes() != after.sizeBytes()) {
                add(Change.Kind.PARTITION_RESIZED, report.name(), label,
                    capital(after.label()) + " " + (after.sizeBytes() > before.sizeBytes() ? "grew" : "shrank") + ": it was "
                        + sizes(before.sizeBytes(), after.sizeBytes()) + ".",
                    line);
            }
            if (!after.fileSystem().isEmpty() && !before.fileSystem().isEmpty() && !after.fileSystem().equals(before.fileSystem())) {
                add(Change.Kind.FILE_SYSTEM_CHANGED, report.name(), label,
                    capital(after.label()) + " held " + before.fileSystem() + " and now holds " + after.fileSystem() + ".", line);
            }
            OptionalLong was = before.usedBytes();
            OptionalLong is = after.usedBytes();
            if (was.isPresent() && is.isPresent() && Math.abs(is.getAsLong() - was.getAsLong()) > after.sizeBytes() * WORTH_TELLING) {
                add(Change.Kind.USED_CHANGED, report.name(), label,
                    capital(after.label()) + ": used bytes went " + (is.getAsLong() > was.getAsLong() ? "up" : "down") + ", they were "
                        + Sizes.decimal(was.getAsLong()) + " and are now " + Sizes.decimal(is.getAsLong()) + ".",
                    line);
            }
        }

        private static String sizes(long before, long after) {
            return Sizes.decimal(before) + " and is now " + Sizes.decimal(after);
        }

        private static String capital(String text) {
            return text.substring(0, 1).toUpperCase(Locale.ROOT) + text.substring(1);
        }

        private static String count(int number, String what) {
            return number + " " + what + (number == 1 ? "" : "s");
        }

        private static String folded(String name) {
            return name.strip().toLowerCase(Locale.ROOT);
        }

        private void add(Change.Kind kind, String computer, String disk, String sentence, int line) {
            changes.add(new Change(kind, computer, disk, sentence, line));
        }
    }
}
