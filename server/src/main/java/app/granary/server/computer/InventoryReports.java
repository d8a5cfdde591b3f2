package app.granary.server.computer;

import app.granary.core.inventory.ComputerReport;
import app.granary.core.inventory.DiskMatch;
import app.granary.core.inventory.DiskReport;
import app.granary.core.inventory.InventoryReview;
import app.granary.core.inventory.KnownDisk;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What a script reported of computers, held against the inventory and taken over. */
@Service
class InventoryReports {
    private final Inventory inventory;
    private final ComputerRepository computers;
    private final DiskRepository disks;
    private final UsedReadingRepository readings;
    private final Clock clock;

    InventoryReports(Inventory inventory, ComputerRepository computers, DiskRepository disks, UsedReadingRepository readings, Clock clock) {
        this.inventory = inventory;
        this.computers = computers;
        this.disks = disks;
        this.readings = readings;
        this.clock = clock;
    }

    /** Changes whenever anything in the inventory does. */
    long revision() {
        return inventory.revision();
    }

    @Transactional(readOnly = true)
    public InventoryReview review(List<ComputerReport> reports) {
        List<Disk> present = inventory.present();
        Map<UUID, List<Disk>> byComputer = present.stream().collect(Collectors.groupingBy(disk -> disk.computer().id()));
        List<ComputerReport> known = computers.findAllByOrderByName().stream().filter(c -> c.retiredAt() == null)
            .map(c -> new ComputerReport(c.name(), c.facts().maker(),
                c.facts().model(), c.facts().firmware(), c.facts().secureBoot(), c.facts().operatingSystem(),
                byComputer.getOrDefault(c.id(), List.of()).stream().map(Disk::report).toList(), true, 0))
            .toList();
        return InventoryReview.of(known, present.stream().map(InventoryReports::known).toList(), reports);
    }

    private static KnownDisk known(Disk disk) {
        return new KnownDisk(disk.id(), disk.computer().name(), disk.report());
    }

    /** A disk a report can be tied to. */
    @Transactional(readOnly = true)
    public Optional<KnownDisk> knownDisk(String id) {
        return inventory.present().stream().filter(disk -> disk.id().equals(id)).findFirst().map(InventoryReports::known);
    }

    /**
     * Carries a review out, all of it or nothing. Everything known is read once: asking row by row takes minutes for five hundred
     * computers.
     */
    @Transactional
    public void accept(List<ComputerReport> reports, InventoryReview review, String format) {
        Instant now = clock.instant();
        Map<String, Computer> byName = computers.findAll().stream().filter(c -> c.retiredAt() == null)
            .collect(Collectors.toMap(c -> folded(c.name()), c -> c, (a, b) -> a));
        Map<String, Disk> byId = disks.all().stream().collect(Collectors.toMap(Disk::id, d -> d));
        Map<String, UsedReading> last = readings.newest().stream().collect(Collectors.toMap(UsedReading::diskId, r -> r, (a, b) -> a));
        Map<String, List<DiskMatch>> matches = review.matches().stream().collect(Collectors.groupingBy(DiskMatch::computer));
        review.gone().forEach(gone -> byId.get(gone.id()).remove(now));
        for (ComputerReport report : reports) {
            Computer computer = byName.computeIfAbsent(folded(report.name()),
                none -> inventory.persisted(Computer.named(report.name().strip(), "reported, " + format, now)));
            computer.take(report, now);
            int place = 1;
            for (DiskMatch match : matches.getOrDefault(report.name(), List.of())) {
                Disk disk = match.known().map(known -> byId.get(known.id())).orElseGet(() -> Disk.of(UUID.randomUUID().toString()));
                take(disk, computer, place++, match.reported(), now);
                if (match.known().isEmpty()) {
                    inventory.persisted(disk);
                }
                match.reported().usedBytes().ifPresent(used -> inventory.reading(disk.id(), used, format,
                    Optional.ofNullable(last.get(disk.id()))));
            }
        }
        inventory.changed();
    }

    private static String folded(String name) {
        return name.strip().toLowerCase(Locale.ROOT);
    }

    private static void take(Disk disk, Computer computer, int place, DiskReport report, Instant now) {
        disk.describe(computer, place, report.name().isEmpty() ? "disk " + place : report.name(), report.identity(), report.bus(), now);
        long toRead = report.partitions().stream().mapToLong(p -> p.usedBytes().orElse(p.sizeBytes())).sum();
        disk.layout(report.sectorBytes(), report.scheme().isEmpty() ? "none" : report.scheme(), toRead, List.of(),
            report.partitions().stream().map(each -> DiskPartition.reported(disk, each)).toList());
    }
}
