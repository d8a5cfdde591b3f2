package app.granary.core.layout;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyedPartition;
import app.granary.core.measure.Sizes;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/** Finds the sizes and places of one layout, and everything that speaks against it. */
final class LayoutWriter {
    private final DiskSurvey image;
    private final LayoutTarget target;
    private final LayoutChoice choice;
    private final long align;
    private final Usable usable;
    private final List<SurveyedPartition> parts;
    /** Those the image does not hold; their places in it are zeros, which must not pass for them. */
    private final List<SurveyedPartition> lacking;
    private final List<Step> steps = new ArrayList<>();
    private final List<Refusal> refusals = new ArrayList<>();
    private final List<String> remarks = new ArrayList<>();

    LayoutWriter(DiskSurvey image, LayoutTarget target, LayoutChoice choice) {
        this.image = image;
        this.target = target;
        this.choice = choice;
        this.align = target.alignBytes();
        this.usable = Usable.of(image.table(), target);
        this.lacking = image.partitions().stream().filter(SurveyedPartition::lacking).toList();
        this.parts = image.partitions().stream().filter(each -> !each.partition().container() && !each.lacking()
            && choice.takes(each.partition().number()))
            .sorted(Comparator.comparingLong(each -> each.partition().startBytes())).toList();
    }

    RestoreLayout layout() {
        if (target.sectorBytes() != image.sectorBytes()) {
            refuse(Refusal.Kind.SECTOR_SIZE,
                "The image was made of a disk with sectors of " + image.sectorBytes() + " bytes, and the target has sectors of "
                    + target.sectorBytes()
                    + ": its table and file systems would not be readable there. Use a target with sectors of " + image.sectorBytes()
                    + " bytes.");
            return written(parts.stream().map(each -> each.partition()).toList());
        }
        if (image.table() instanceof PartitionTable.Damaged || image.partitions().isEmpty()) {
            return byteForByte();
        }
        if (parts.isEmpty()) {
            refuse(Refusal.Kind.NOTHING_CHOSEN, lacking.isEmpty() ? "No partition is chosen. Choose at least one to restore."
                : "The image holds nothing of what is chosen: " + names(lacking)
                    + (lacking.size() == 1 ? " is" : " are") + " not in it. Choose another partition, or another image.");
            return written(List.of());
        }
        remarks.addAll(FirmwareRemarks.of(image, target, usable));
        if (!lacking.isEmpty() && choice.only().isEmpty()) {
            return withoutWhatIsLacking();
        }
        if (choice.othersStay()) {
            return intoPlace();
        }
        Spread spread = new Spread(parts, usable, image.table(), align);
        List<Partition> placed = sized(spread);
        return written(placed);
    }

    /** No partition is known: every byte goes back to where it was, or nothing does. */
    private RestoreLayout byteForByte() {
        long end = image.toRead().isEmpty() ? 0 : image.toRead().end(image.toRead().count() - 1);
        if (target.sizeBytes() < end) {
            refuse(Refusal.Kind.TABLE,
                "No partition table in the image can be read, so nothing can be moved: the target must be at least as large as the disk "
                    + "was, and is "
                    + Sizes.decimal(image.sizeBytes() - target.sizeBytes()) + " smaller.");
        }
        remarks.add("No partition table in the image can be read. Every byte goes back to where it was.");
        return written(List.of());
    }

    /**
     * A disk that has the partitions the image lacks keeps them, with its table and all that lies between: only what the image holds is
     * written. On any other disk they are not made, since an empty one would pass for what it was.
     */
    private RestoreLayout withoutWhatIsLacking() {
        boolean there = image.partitions().stream().map(SurveyedPartition::partition).allMatch(each -> Places.same(target, each));
        String names = names(lacking) + (lacking.size() == 1 ? " is" : " are") + " not in the image";
        if (there) {
            remarks.add(names
                + ". What the target has there stays as it is, and so do its table and its boot code; only the other partitions are "
                + "written, each in its place.");
            return intoPlace();
        }
        remarks.add(names + ", and the target has no such " + (lacking.size() == 1 ? "partition: it is" : "partitions: they are")
            + " not made there.");
        return written(sized(new Spread(parts, usable, image.table(), align)));
    }

    private static String names(List<SurveyedPartition> partitions) {
        String out = String.join(", ", partitions.stream().map(each -> each.partition().label()).toList());
        return out.substring(0, 1).toUpperCase(java.util.Locale.ROOT) + out.substring(1);
    }

    /** Only some partitions, each into the one of its number on the target: nothing else there is touched. */
    private RestoreLayout intoPlace() {
        List<Placed> placed = new ArrayList<>();
        if (!choice.added().isEmpty()) {
            refuse(Refusal.Kind.OUT_OF_BOUNDS, "The target keeps its table, so no new partition is made on it. Restore all partitions, or "
                + "leave the new ones out.");
        }
        for (SurveyedPartition each : parts) {
            int number = choice.place(each.partition().number());
            Optional<Partition> there = Places.on(target, number);
            if (there.isEmpty()) {
                refuse(Refusal.Kind.OTHERS_DIFFER, "The target has no partition " + number + " to put " + each.partition().label()
                    + " into. Choose another of its partitions, or restore all of the image.");
                continue;
            }
            Partition to = there.get();
            if (placed.stream().anyMatch(other -> other.to().number() == number)) {
                refuse(Refusal.Kind.OUT_OF_BOUNDS, "Two partitions of the image cannot both go into " + to.label()
                    + ". Choose another place for " + each.partition().label() + ".");
                continue;
            }
            Places.over(target, to).ifPresent(other -> refuse(Refusal.Kind.TABLE, "By the target's own table, " + to.label() + " and "
                + other.label() + " lie over each other: writing one would harm the other. Restore all partitions instead."));
            if (to.sizeBytes() < Resizing.minBytes(each, align)) {
                refuse(Refusal.Kind.TOO_SMALL, Resizing.sentence(each) + " needs at least "
                    + Sizes.decimal(Resizing.minBytes(each, align)) + ", and the one on the target has " + Sizes.decimal(to.sizeBytes())
                    + ". Choose another target, or restore all partitions.");
            } else if (to.sizeBytes() < each.partition().sizeBytes()) {
                shrinks(each, to.sizeBytes());
            } else if (to.sizeBytes() > each.partition().sizeBytes()) {
                Resizing.grow(each, to.sizeBytes() - each.partition().sizeBytes(), device(to)).ifPresent(steps::add);
            }
            Places.remark(each.partition(), to).ifPresent(remarks::add);
            placed.add(placed(each, to, 0));
        }
        placed.sort(Comparator.comparingLong(each -> each.to().startBytes()));
        return new RestoreLayout(target, target.table(), placed, List.of(), 0, 0, List.of(), false, true, steps, refusals, remarks);
    }

    private List<Partition> sized(Spread spread) {
        List<Partition> as = spread.asItWas();
        if (spread.fits(as) && choice.strategy() == LayoutChoice.Strategy.KEEP) {
            return as;
        }
        List<Partition> packed = spread.fits(as) ? as : spread.packed(spread.sizes());
        if (!spread.fits(packed) && !(choice.shrinks() && choice.strategy() == LayoutChoice.Strategy.BY_HAND)) {
            return shrunk(spread, spread.overBytes(packed));
        }
        if (packed != as && spread.fits(packed)) {
            remarks.add("The target is smaller than the disk was. Partitions move together, each as large as it was.");
        }
        return switch (choice.strategy()) {
            case KEEP -> packed;
            case GROW -> grown(spread, packed);
            case SHARE -> spread.shared(packed);
            case BY_HAND -> byHand(spread);
        };
    }

    private List<Partition> grown(Spread spread, List<Partition> packed) {
        Optional<SurveyedPartition> main = spread.main();
        if (main.isEmpty()) {
            remarks.add("Nothing in the image can grow, so every partition keeps its size.");
            return packed;
        }
        List<Partition> out = spread.grown(packed, main.get(), choice.moveTrailing());
        List<Partition> behind = spread.behind(main.get());
        if (!behind.isEmpty() && spread.overBytes(out) <= 0) {
            long gain = spread.grown(packed, main.get(), true).get(spread.indexOf(main.get())).sizeBytes()
                - out.get(spread.indexOf(main.get())).sizeBytes();
            String names = String.join(", ", behind.stream().map(Partition::label).toList());
            remarks.add(choice.moveTrailing()
                ? names + (behind.size() == 1 ? " lies" : " lie")
                    + " behind the main partition and would block its growth: moved to the end of the target."
                : names + (behind.size() == 1 ? " lies" : " lie") + " behind the main partition and "
                    + (behind.size() == 1 ? "blocks" : "block") + " " + Sizes.decimal(Math.max(0, gain))
                    + " of its growth. Let it move to the end to use them.");
        }
        return out;
    }

    private List<Partition> byHand(Spread spread) {
        long[] sizes = spread.sizes();
        long over = spread.overBytes(spread.packed(sizes));
        long[] usual = over > 0 ? spread.shrunk(over, false) : sizes;
        for (int i = 0; i < parts.size(); i++) {
            SurveyedPartition each = parts.get(i);
            long wanted = choice.sizes().getOrDefault(each.partition().number(), usual[i]) / target.sectorBytes() * target.sectorBytes();
            if (wanted < Resizing.minBytes(each, align)) {
                refuse(Refusal.Kind.OUT_OF_BOUNDS,
                    each.partition().label() + " cannot be made smaller than " + Sizes.decimal(Resizing.minBytes(each, align)) + ", and "
                        + Sizes.decimal(Math.max(0, wanted))
                        + " is asked for.");
                wanted = sizes[i];
            } else if (wanted < sizes[i]) {
                shrinks(each, wanted);
            }
            sizes[i] = wanted;
        }
        List<Partition> out = spread.packed(sizes);
        if (!spread.fits(out)) {
            refuse(Refusal.Kind.OUT_OF_BOUNDS,
                "The sizes set are " + Sizes.decimal(spread.overBytes(out)) + " more than the target has. Make a partition smaller.");
        }
        return out;
    }

    /** As it would lie once enough of it was made smaller. */
    private List<Partition> shrunk(Spread spread, long overBytes) {
        long[] sizes = spread.shrunk(overBytes, choice.strategy() == LayoutChoice.Strategy.SHARE);
        List<Partition> out = spread.packed(sizes);
        if (!spread.fits(out)) {
            long least = target.sizeBytes() + spread.overBytes(out);
            refuse(Refusal.Kind.TOO_SMALL,
                "The target has " + Sizes.decimal(target.sizeBytes()) + ", and what is in use in the image needs at least "
                    + Sizes.decimal(least)
                    + ", that is " + Sizes.decimal(least - target.sizeBytes()) + " more. Use a target of at least that size.");
            return out;
        }
        for (int i = 0; i < sizes.length; i++) {
            if (sizes[i] < parts.get(i).partition().sizeBytes()) {
                shrinks(parts.get(i), sizes[i]);
            }
        }
        return out;
    }

    private void shrinks(SurveyedPartition each, long toBytes) {
        if (choice.shrinks()) {
            remarks.add(Resizing.sentence(each) + " is" + Resizing.shrunk(each, toBytes)
                + "That is done and checked in a scratch file before the target is touched.");
            return;
        }
        Step step = Resizing.shrinkFirst(each, toBytes, device(each.partition()));
        steps.add(step);
        refuse(Refusal.Kind.SHRINK_FIRST, step.sentence());
    }

    private static String device(Partition partition) {
        return "/dev/sdX" + (partition.number() == 0 ? "" : "" + partition.number());
    }

    private void refuse(Refusal.Kind kind, String sentence) {
        refusals.add(new Refusal(kind, sentence));
    }

    private Placed placed(SurveyedPartition each, Partition to, long roomBytes) {
        return new Placed(each.partition(), to, each.fileSystem().kind(), each.fileSystem().usedBytes(), Resizing.highest(each),
            Resizing.minBytes(each, align), to.sizeBytes() + roomBytes, true);
    }

    private RestoreLayout written(List<Partition> places) {
        List<Added> added = new Additions(image.table(), places, usable.free(TableOf.taken(image.table(), parts, places, usable,
            align), usable.endBytes(), align), align).all(choice.added(), refusals);
        List<Partition> both = Stream.concat(places.stream(), added.stream().map(Added::to)).toList();
        List<RestoreLayout.Stretch> free = usable.free(both, target.sizeBytes(), align);
        long unallocated = free.stream().mapToLong(RestoreLayout.Stretch::sizeBytes).sum();
        List<Placed> placed = new ArrayList<>();
        for (int i = 0; i < places.size(); i++) {
            Placed one = placed(parts.get(i), places.get(i), unallocated);
            placed.add(one);
            long more = one.to().sizeBytes() - one.from().sizeBytes();
            if (more > 0 && refusals.isEmpty()) {
                Resizing.grow(parts.get(i), more, device(one.to())).ifPresent(steps::add);
            }
            // a recovery partition is found by its place (common practice, no source)
            if (one.moved() && one.from().type().hidden() && refusals.isEmpty()) {
                steps.add(new Step(Step.When.AFTER,
                    Resizing.sentence(parts.get(i))
                        + " was moved. Check that its system still recognises it; register it again if it does not.",
                    ""));
            }
        }
        long inPartitions = both.stream().mapToLong(Partition::sizeBytes).sum();
        long tableBytes = places.isEmpty() ? 0 : usable.tableBytes();
        boolean all = choice.only().isEmpty() && lacking.isEmpty() && added.isEmpty();
        boolean asItWas = all && target.sizeBytes() >= image.sizeBytes() - tailBytes()
            && placed.stream().noneMatch(each -> each.moved() || each.resized());
        PartitionTable table = all && asItWas ? image.table() : TableOf.placed(image.table(), parts, places, added, usable, align);
        long alignment = refusals.isEmpty() ? target.sizeBytes() - inPartitions - tableBytes - unallocated : 0;
        return new RestoreLayout(target, table, placed, added, tableBytes, alignment, free, asItWas && refusals.isEmpty(), false, steps,
            refusals,
            remarks);
    }

    /** What of the old disk lies behind its last partition and need not exist on the target. */
    private long tailBytes() {
        return image.sizeBytes()
            - image.partitions().stream().mapToLong(each -> each.partition().endBytes()).max().orElse(image.sizeBytes());
    }
}
