package app.granary.core.layout;

import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What a person wants of a layout.
 *
 * @param strategy     how room beyond the image's partitions is used
 * @param moveTrailing whether partitions behind the main one may move to the target's end, so that the main one can grow
 * @param sizes        bytes by partition number, for {@link Strategy#BY_HAND}; one that is not named keeps its size
 * @param only         numbers of the partitions to restore; empty for all
 * @param othersStay   with {@code only}: the target has the same partitions already, and those that are not restored stay as they are, its
 *                     table too
 * @param into         with {@code othersStay}: number of the target's partition by that of the image's, where they differ
 * @param added        partitions to be made in what stays free, in their order
 * @param shrinks      whether file systems may be made smaller on the way, where the target is too small for them as they are
 */
public record LayoutChoice(Strategy strategy, boolean moveTrailing, Map<Integer, Long> sizes, Set<Integer> only, boolean othersStay,
    Map<Integer, Integer> into, List<NewPartition> added, boolean shrinks) {
    /** Every partition as large as it was. */
    public static final LayoutChoice KEEP = of(Strategy.KEEP);

    /** What becomes of room beyond the image's partitions. */
    public enum Strategy {
        /** It stays unallocated. */
        KEEP,
        /** The main partition takes it. */
        GROW,
        /** All that can grow share it in proportion to their sizes. */
        SHARE,
        /** As a person sets it. */
        BY_HAND;

        /** For people and the wire. */
        public String word() {
            return name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
        }
    }

    public LayoutChoice {
        sizes = Map.copyOf(sizes);
        only = Set.copyOf(only);
        into = Map.copyOf(into);
        added = List.copyOf(added);
    }

    /** All partitions, those behind the main one movable. */
    public static LayoutChoice of(Strategy strategy) {
        return new LayoutChoice(strategy, true, Map.of(), Set.of(), false, Map.of(), List.of(), false);
    }

    public static LayoutChoice byHand(Map<Integer, Long> sizes) {
        return new LayoutChoice(Strategy.BY_HAND, true, sizes, Set.of(), false, Map.of(), List.of(), false);
    }

    public LayoutChoice only(Set<Integer> numbers, boolean othersStayThere) {
        return new LayoutChoice(strategy, moveTrailing, sizes, numbers, othersStayThere, into, added, shrinks);
    }

    public LayoutChoice shrinking(boolean may) {
        return new LayoutChoice(strategy, moveTrailing, sizes, only, othersStay, into, added, may);
    }

    /** The same in a target whose bytes are fewer by a factor; for stand-ins. */
    public LayoutChoice divided(long factor) {
        return new LayoutChoice(strategy, moveTrailing,
            sizes.entrySet().stream().collect(java.util.stream.Collectors.toMap(Map.Entry::getKey, each -> each.getValue() / factor)), only,
            othersStay, into, added.stream().map(each -> each.divided(factor)).toList(), shrinks);
    }

    /** @param targetNumbers by numbers of the image */
    public LayoutChoice into(Map<Integer, Integer> targetNumbers) {
        return new LayoutChoice(strategy, moveTrailing, sizes, only, othersStay, targetNumbers, added, shrinks);
    }

    public LayoutChoice adding(List<NewPartition> partitions) {
        return new LayoutChoice(strategy, moveTrailing, sizes, only, othersStay, into, partitions, shrinks);
    }

    /** Of the target's partition one of the image goes into, where the others stay. */
    int place(int number) {
        return into.getOrDefault(number, number);
    }

    boolean takes(int number) {
        return only.isEmpty() || only.contains(number);
    }
}
