package app.granary.server.computer;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.image.DiskInside;
import app.granary.core.inventory.ComputerRenamed;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.HostDisk;
import app.granary.server.problem.IfMatch;
import app.granary.server.problem.Refused;
import jakarta.persistence.EntityManager;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.Collectors;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The computers and disks that are known, and everything that changes them. */
@Service
class Inventory {
    /** An unchanged disk still gets a reading once a day, so that its history shows that it was looked at. */
    private static final Duration READ_AT_LEAST = Duration.ofHours(20);

    private final ComputerRepository computers;
    private final DiskRepository disks;
    private final UsedReadingRepository readings;
    private final EntityManager entities;
    private final Clock clock;
    private final ApplicationEventPublisher events;
    private final AtomicLong revision = new AtomicLong(System.nanoTime());

    Inventory(ComputerRepository computers, DiskRepository disks, UsedReadingRepository readings, EntityManager entities, Clock clock,
        ApplicationEventPublisher events) {
        this.events = events;
        this.computers = computers;
        this.disks = disks;
        this.readings = readings;
        this.entities = entities;
        this.clock = clock;
    }

    /** Changes whenever anything in the inventory does. */
    long revision() {
        return revision.get();
    }

    /** Something in it has changed. */
    void changed() {
        revision.incrementAndGet();
    }

    @Transactional(readOnly = true)
    public List<Computer> computers() {
        return computers.findAllByOrderByName();
    }

    Computer one(UUID id) {
        return computers.findById(id).orElseThrow(() -> Refused.notFound("computer"));
    }

    /** All disks by computer, in their place; removed ones too. */
    @Transactional(readOnly = true)
    public Map<UUID, List<Disk>> disksByComputer() {
        return disks.all().stream().collect(Collectors.groupingBy(disk -> disk.computer().id()));
    }

    @Transactional(readOnly = true)
    public List<Disk> disksOf(UUID computer) {
        return disks.of(computer);
    }

    List<UsedReading> readingsOf(String diskId) {
        return readings.findByDiskIdOrderByAt(diskId);
    }

    // --- what is at hand --------------------------------------------------------------------------------------------------------------

    /** A computer at hand: met for the first time it is added with what it tells; after that a person's words stand. */
    @Transactional
    public Computer meet(HostComputer site) {
        Optional<Computer> known = computers.findByHostId(site.id()).or(() -> byItsDisks(site))
            .or(() -> computers.findFirstByNameIgnoreCaseAndRetiredAtIsNull(site.name()));
        Computer computer = known.orElseGet(() -> {
            Computer made = Computer.named(site.name(), "attached here", clock.instant());
            made.describe(site.name(), site.role(), site.owner(), site.facts(), "", clock.instant());
            return made;
        });
        computer.attachTo(site.id());
        changed();
        return computers.save(computer);
    }

    /** A computer somewhere else is the one its built-in disks are of, whatever it calls itself now; disks of two tell nothing. */
    private Optional<Computer> byItsDisks(HostComputer site) {
        List<Computer> of = site.disks().stream().filter(disk -> !disk.bus().equals("usb")).flatMap(disk ->
            disks.findById(disk.id()).stream())
            .flatMap(disk -> Optional.ofNullable(disk.computer()).stream()).filter(each -> each.retiredAt() == null).distinct().toList();
        return of.size() == 1 ? Optional.of(of.get(0)) : Optional.empty();
    }

    @Transactional
    public void read(HostComputer site, HostDisk hostDisk, int place, AttachedDisks.Found found) {
        Computer computer = meet(site);
        Disk disk = disks.findById(hostDisk.id()).orElseGet(() -> Disk.of(hostDisk.id()));
        if (disk.computer() == null || disk.computer().id().equals(computer.id()) || disk.computer().retiredAt() != null) {
            boolean hidden = hostDisk.identity().serial().isEmpty() && disk.computer() != null && !disk.identity().serial().isEmpty();
            disk.describe(computer, place, hidden ? disk.name() : hostDisk.name(), hidden ? disk.identity() : hostDisk.identity(),
                hostDisk.bus(), clock.instant());
        } else {
            disk.seenElsewhere(hostDisk.identity(), clock.instant());
        }
        if (found.survey().isPresent()) {
            DiskSurvey survey = found.survey().get();
            disk.layout(survey.sectorBytes(), survey.table().scheme(), survey.usedBytes(), survey.table().remarks(),
                survey.partitions().stream().map(each -> DiskPartition.read(disk, each)).toList());
            disk.knownBy(DiskInside.idOf(survey.table()));
        } else {
            disk.refuse(found.refusal());
        }
        disks.save(disk);
        found.survey()
            .ifPresent(survey -> reading(disk.id(), survey.toldUsedBytes(), "read", readings.findFirstByDiskIdOrderByAtDesc(disk.id())));
        changed();
    }

    /** Kept when it says something new, or the last is old. */
    void reading(String diskId, long usedBytes, String source, Optional<UsedReading> last) {
        Instant now = clock.instant();
        if (last.isEmpty() || last.get().usedBytes() != usedBytes || last.get().at().isBefore(now.minus(READ_AT_LEAST))) {
            entities.persist(new UsedReading(diskId, now, usedBytes, source));
        }
    }

    @Transactional(readOnly = true)
    public boolean hasNoPast() {
        return disks.count() > 0 && readings.count() <= disks.count();
    }

    @Transactional
    public void addPast(List<DisksOnRecord.UsedBefore> past) {
        past.stream().filter(each -> disks.existsById(each.diskId()))
            .forEach(each -> readings.save(new UsedReading(each.diskId(), each.at(), each.usedBytes(), "past")));
        changed();
    }

    // --- by hand ----------------------------------------------------------------------------------------------------------------------

    @Transactional
    public Computer add(ComputerForm form) {
        requireFree(form.name(), null);
        Computer computer = Computer.named(form.name().strip(), "added by hand", clock.instant());
        describe(computer, form);
        return computers.save(computer);
    }

    /** @param version what the person saw; when it has moved on, nothing is overwritten */
    @Transactional
    public Computer change(UUID id, long version, ComputerForm form) {
        Computer computer = one(id);
        if (computer.version() != version) {
            throw IfMatch.changedMeanwhile(computer.name());
        }
        requireFree(form.name(), id);
        String before = computer.name();
        describe(computer, form);
        if (!before.equals(computer.name())) {
            events.publishEvent(
                new ComputerRenamed(before, computer.name(), disks.of(id).stream().map(Disk::id).collect(Collectors.toSet())));
        }
        return computers.saveAndFlush(computer);
    }

    /** @param on when its files were last saved by other means; null when that is not known any more */
    @Transactional
    public Computer filesSaved(UUID id, LocalDate on, String how) {
        Computer computer = one(id);
        if (on != null && on.isAfter(LocalDate.ofInstant(clock.instant(), clock.getZone()).plusDays(1))) {
            throw new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "on", "That day is yet to come. Note the day the files were saved.");
        }
        computer.filesSaved(on, how);
        return computers.saveAndFlush(computer);
    }

    private void describe(Computer computer, ComputerForm form) {
        computer.describe(form.name().strip(), form.role().strip(), form.owner().strip(), form.facts(), form.note().strip(),
            clock.instant());
        computer.check(form.checks().strip());
        changed();
    }

    private void requireFree(String name, UUID self) {
        computers.findFirstByNameIgnoreCaseAndRetiredAtIsNull(name.strip()).filter(other -> !other.id().equals(self)).ifPresent(other -> {
            throw new Refused(HttpStatus.CONFLICT, "name-taken", "name",
                "There is a computer named " + other.name() + " already. Choose another name, or edit that one.");
        });
    }

    @Transactional
    public Computer retire(UUID id, boolean retired) {
        Computer computer = one(id);
        if (retired) {
            computer.retire(clock.instant());
        } else {
            requireFree(computer.name(), id);
            computer.bringBack();
        }
        changed();
        return computers.save(computer);
    }

    /** A disk by hand. One with the same serial and size that is known already is refused: it may only have moved. */
    @Transactional
    public Computer addDisk(UUID computerId, DiskForm form) {
        Computer computer = one(computerId);
        DiskIdentity identity = form.identity();
        present().stream().filter(disk -> !identity.serial().isEmpty() && disk.identity().serial().equals(identity.serial())).findFirst()
            .ifPresent(twin -> {
                throw new Refused(HttpStatus.CONFLICT, "serial-taken", "serial",
                    "A disk with the serial " + identity.serial() + " is in " + twin.computer().name()
                        + " already. If it moved, remove it there first.");
            });
        if (form.usedBytes() != null && form.usedBytes() > form.sizeBytes()) {
            throw new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "usedBytes",
                "The used bytes are more than the disk holds. Correct one of the two.");
        }
        List<Disk> there = disks.of(computerId);
        Disk disk = Disk.of(UUID.randomUUID().toString());
        disk.describe(computer, there.size() + 1, form.name().isBlank() ? "disk " + (there.size() + 1) : form.name().strip(), identity, "",
            clock.instant());
        disk.layout(512, "none", form.usedBytes() == null ? form.sizeBytes() : form.usedBytes(), List.of(), List.of());
        persisted(disk);
        if (form.usedBytes() != null) {
            reading(disk.id(), form.usedBytes(), "by hand", Optional.empty());
        }
        changed();
        return computer;
    }

    /** Marks a disk as no longer there; it comes back by itself when it is attached or reported again. */
    @Transactional
    public Disk removeDisk(UUID computerId, String diskId) {
        Disk disk = disks.of(computerId).stream().filter(each -> each.id().equals(diskId)).findFirst()
            .orElseThrow(() -> Refused.notFound("disk"));
        disk.remove(clock.instant());
        changed();
        return disk;
    }

    /** Disks that are there, in computers that are in use. */
    List<Disk> present() {
        return disks.all().stream().filter(disk -> disk.removedAt() == null && disk.computer().retiredAt() == null).toList();
    }

    <T> T persisted(T made) {
        entities.persist(made);
        return made;
    }

}
