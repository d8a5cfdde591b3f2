package app.granary.core.retention;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;

/**
 * The coming months if every plan keeps its rhythm, every image is proven and what no rule keeps is released at once: images and bytes on
 * each destination over time, and the first image that finds no room. Pure; what else happens to the drives is not foreseen.
 */
public final class WhatIf {
    private final ZoneId zone;
    private final List<Step> steps = new ArrayList<>();

    private WhatIf(ZoneId zone) {
        this.zone = zone;
    }

    /**
     * An image, there or to come.
     *
     * @param bytes what it takes on its destination
     */
    public record Lying(ShelvedCopy image, String destinationId, long bytes) {
    }

    /**
     * One disk with what lies of it and what is to come.
     *
     * @param label    how it is called when it finds no room
     * @param policies of its plans; what any of them keeps stays
     * @param coming   images its plans will make, in any order
     */
    public record Disk(String label, List<Lying> there, List<RetentionPolicy> policies, List<Lying> coming) {
    }

    /**
     * A destination as it is now.
     *
     * @param freeBytes    now, with what lies there
     * @param reserveBytes to stay free
     */
    public record Room(String destinationId, long freeBytes, long reserveBytes) {
    }

    /** What lies on a destination at the end of a day; bytes of images alone. */
    public record Point(LocalDate day, int images, long bytes) {
    }

    /**
     * @param bytes     it needs
     * @param freeBytes there would be beyond the reserve
     */
    public record Refusal(LocalDate day, String label, long bytes, long freeBytes) {
    }

    /**
     * @param points  one at the start, one a week, one at the end
     * @param refusal the first image that finds no room; empty when all do
     */
    public record Outlook(String destinationId, List<Point> points, Optional<Refusal> refusal) {
    }

    private record Step(Instant at, String destinationId, int images, long bytes, String label) {
    }

    /** @return one outlook for each room, in that order */
    public static List<Outlook> of(List<Disk> disks, List<Room> rooms, Instant now, Instant until, ZoneId zone) {
        WhatIf what = new WhatIf(zone);
        disks.forEach(disk -> what.play(disk, now, until));
        what.steps.sort(Comparator.comparing(Step::at));
        Map<String, int[]> counts = new HashMap<>();
        Map<String, long[]> bytes = new HashMap<>();
        for (Disk disk : disks) {
            for (Lying each : disk.there) {
                counts.computeIfAbsent(each.destinationId, key -> new int[1])[0]++;
                bytes.computeIfAbsent(each.destinationId, key -> new long[1])[0] += each.bytes;
            }
        }
        return rooms.stream().map(room -> what.outlook(room, counts.getOrDefault(room.destinationId, new int[1])[0],
            bytes.getOrDefault(room.destinationId, new long[1])[0], now, until)).toList();
    }

    private void play(Disk disk, Instant now, Instant until) {
        Map<String, Lying> lying = new TreeMap<>();
        disk.there.forEach(each -> lying.put(each.image.id(), each));
        release(disk, lying, now);
        for (Lying next : disk.coming.stream().sorted(Comparator.comparing(each -> each.image.madeAt())).toList()) {
            Instant at = next.image.madeAt();
            if (at.isAfter(now) && at.isBefore(until)) {
                lying.put(next.image.id(), next);
                steps.add(new Step(at, next.destinationId, 1, next.bytes, disk.label));
                release(disk, lying, at);
            }
        }
    }

    private void release(Disk disk, Map<String, Lying> lying, Instant at) {
        List<ShelvedCopy> shelf = lying.values().stream().map(Lying::image).toList();
        Set<String> kept = new HashSet<>();
        for (RetentionPolicy policy : disk.policies) {
            Retention.decide(shelf, policy, at, zone).stream().filter(RetentionDecision::kept).forEach(each -> kept.add(each.id()));
        }
        for (Lying each : List.copyOf(lying.values())) {
            if (!kept.contains(each.image.id())) {
                lying.remove(each.image.id());
                // the old one stays until the new one is proven, so it goes just after it came
                steps.add(new Step(at.plusMillis(1), each.destinationId, -1, -each.bytes, disk.label));
            }
        }
    }

    private Outlook outlook(Room room, int images, long bytes, Instant now, Instant until) {
        List<Point> points = new ArrayList<>();
        long free = room.freeBytes;
        Refusal refusal = null;
        LocalDate day = now.atZone(zone).toLocalDate();
        points.add(new Point(day, images, bytes));
        LocalDate next = day.plusWeeks(1);
        for (Step step : steps) {
            if (!step.destinationId.equals(room.destinationId)) {
                continue;
            }
            LocalDate on = step.at.atZone(zone).toLocalDate();
            for (; next.isBefore(on) || next.equals(on); next = next.plusWeeks(1)) {
                points.add(new Point(next.minusDays(1), images, bytes));
            }
            if (step.images > 0 && refusal == null && free - step.bytes < room.reserveBytes) {
                refusal = new Refusal(on, step.label, step.bytes, Math.max(0, free - room.reserveBytes));
            }
            images += step.images;
            bytes += step.bytes;
            free -= step.bytes;
        }
        LocalDate end = until.atZone(zone).toLocalDate();
        for (; next.isBefore(end); next = next.plusWeeks(1)) {
            points.add(new Point(next.minusDays(1), images, bytes));
        }
        points.add(new Point(end, images, bytes));
        return new Outlook(room.destinationId, points, Optional.ofNullable(refusal));
    }
}
