package app.granary.server.rescue;

import app.granary.core.rescue.RescueMedium;
import app.granary.core.target.TargetDisk;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.Overwriting;
import app.granary.server.computer.ComputersOnRecord;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import app.granary.server.queue.NewRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunQueue;
import app.granary.server.target.Targets;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;

/** The register of rescue media, and what writes one. */
@Service
public class RescueMedia {
    private static final double USUAL_SECONDS = 60;

    private final RescueStickRepository sticks;
    private final BootTrialRepository trials;
    private final ComputersOnRecord computers;
    private final Targets targets;
    private final Overwriting overwriting;
    private final RunQueue queue;
    private final Journal journal;
    private final Clock clock;

    RescueMedia(RescueStickRepository sticks, BootTrialRepository trials, ComputersOnRecord computers, Targets targets,
        Overwriting overwriting, RunQueue queue,
        Journal journal,
        Clock clock) {
        this.sticks = sticks;
        this.trials = trials;
        this.computers = computers;
        this.targets = targets;
        this.overwriting = overwriting;
        this.queue = queue;
        this.journal = journal;
        this.clock = clock;
    }

    /** A medium as it is registered, and as the rules see it. */
    record Registered(RescueStick stick, RescueMedium medium) {
    }

    List<Registered> all() {
        Map<UUID, String> names = computers.all().stream()
            .collect(Collectors.toMap(ComputersOnRecord.ComputerOnRecord::id, ComputersOnRecord.ComputerOnRecord::name));
        Map<UUID, List<RescueMedium.BootTest>> tests = trials.findAll().stream()
            .collect(Collectors.groupingBy(BootTrial::stickId, Collectors.mapping(each -> each.test(names), Collectors.toList())));
        return sticks.findAllByOrderByName().stream()
            .map(each -> new Registered(each,
                new RescueMedium(each.name(), each.contents(), each.starts(), each.since(), each.writes(), each.errors(),
                    each.retiredAt() != null,
                    tests.getOrDefault(each.id(), List.of()))))
            .toList();
    }

    RescueStick one(UUID id) {
        return sticks.findById(id).orElseThrow(() -> Refused.notFound("rescue medium"));
    }

    /** Media known to start a computer, each with where it lies; empty when none is. */
    public List<String> starting(UUID computerId) {
        return all().stream().filter(each -> each.medium.starts(computerId.toString()))
            .map(each -> each.stick.name() + (each.stick.place().isEmpty() ? "" : ", " + each.stick.place())).toList();
    }

    /** How many media are known to start some computer in use. */
    public long startingAny() {
        List<String> inUse = computers.all().stream().map(each -> each.id().toString()).toList();
        return all().stream().filter(each -> inUse.stream().anyMatch(each.medium::starts)).count();
    }

    /** A medium that should be tried. */
    public record Due(String name, String why) {
    }

    public List<Due> due() {
        return all().stream().flatMap(each -> each.medium.due(clock.instant()).map(why -> new Due(each.stick.name(), why)).stream())
            .toList();
    }

    /**
     * One for the register.
     *
     * @param since when it came into use; not in the future
     */
    public record Entry(String name, String kind, String serial, String contents, List<String> starts, String place, boolean spareSet,
        Instant since) {
        public Entry {
            name = name.strip();
            serial = serial.strip();
            contents = contents.strip();
            place = place.strip();
            starts = List.copyOf(starts);
        }
    }

    /** @return its identity in the register */
    public UUID register(Entry fresh, String who) throws IOException {
        if (sticks.findAllByOrderByName().stream()
            .anyMatch(each -> each.name().equalsIgnoreCase(fresh.name) && each.retiredAt() == null)) {
            throw new Refused(HttpStatus.CONFLICT, "name-taken", "name",
                "There is a rescue medium named " + fresh.name + " already. Write another name on its label.");
        }
        if (fresh.since.isAfter(clock.instant())) {
            throw new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "since",
                "That day is still to come. Choose the day it came into use.");
        }
        Optional<TargetDisk> attached = targets.all().stream()
            .filter(each -> !fresh.serial.isEmpty() && each.identity().serial().equalsIgnoreCase(fresh.serial)).findFirst();
        RescueStick stick = sticks.save(new RescueStick(fresh.name, fresh.kind, attached.map(each -> each.identity().model()).orElse(""),
            fresh.serial, attached.map(each -> each.identity().sizeBytes()).orElse(0L), fresh.contents, fresh.starts, fresh.place,
            fresh.spareSet, fresh.since));
        journal.add(who, "register medium", stick.name(), Journal.Result.NOTE,
            stick.name() + (fresh.contents.isEmpty() ? ", blank" : " with " + fresh.contents)
                + " entered in the register of rescue media.");
        return stick.id();
    }

    void change(UUID id, String place, boolean spareSet, String contents, String who) {
        RescueStick stick = one(id);
        stick.change(place.strip(), spareSet, contents.strip());
        sticks.save(stick);
        journal.add(who, "change medium", stick.name(), Journal.Result.NOTE, stick.name()
            + (place.isBlank() ? " has no place on record" : " lies " + place.strip()) + (spareSet ? ", as part of the spare set." : "."));
    }

    /** A computer was started with it, or was not. */
    public void tried(UUID id, String computer, boolean started, String note, String who) {
        RescueStick stick = one(id);
        if (stick.contents().isEmpty()) {
            throw new Refused(HttpStatus.CONFLICT, "blank", "",
                stick.name() + " has nothing on it that could start a computer. Write one first.");
        }
        trials.save(new BootTrial(stick, computers.id(computer).map(UUID::fromString).orElse(null), computer, started, note.strip(),
            clock.instant(), who));
        journal.add(who, "boot test", computer, started ? Journal.Result.DONE : Journal.Result.FAILED,
            stick.name() + " (" + stick.contents() + ") " + (started ? "started " : "did not start ") + computer
                + (note.isBlank() ? "." : ": " + note.strip()));
    }

    /** It is not to be used any more. */
    public void retire(UUID id, String why, String who) {
        RescueStick stick = one(id);
        stick.retire(clock.instant());
        sticks.save(stick);
        journal.add(who, "retire medium", stick.name(), Journal.Result.NOTE, stick.name() + " is not to be used any more: " + why.strip());
    }

    /** The stick a file was kept of; empty for any other file. */
    Optional<RescueStick> keptFrom(String fileId) {
        return sticks.findAllByOrderByName().stream().filter(each -> !fileId.isEmpty() && each.imageFile().equals(fileId)).findFirst();
    }

    /** The stick is read, all of it, into a file that others like it can be written from. */
    UUID keep(UUID id, String who) throws IOException {
        RescueStick stick = one(id);
        if (stick.serial().isEmpty() || stick.contents().isEmpty()) {
            throw new Refused(HttpStatus.CONFLICT, "not-told", "", stick.serial().isEmpty()
                ? stick.name() + " has no serial in the register, so it cannot be told from another. Enter it anew, with its serial."
                : "Nobody noted what is on " + stick.name() + ", so an image of it would be of nothing known. Write it first.");
        }
        List<TargetDisk> there = targets.all().stream().filter(each -> each.attached() && each.kind() == TargetDisk.Kind.STICK
            && each.identity().serial().equalsIgnoreCase(stick.serial())).toList();
        if (there.size() != 1) {
            throw new Refused(HttpStatus.CONFLICT, "not-there", "", there.isEmpty()
                ? stick.name() + " (serial " + stick.serial() + ") is not plugged in. Plug it in, and try again."
                : there.size() + " sticks give the serial " + stick.serial() + ". Pull all but the one that is meant.");
        }
        TargetDisk disk = there.get(0);
        UUID runId = UUID.randomUUID();
        String file = stick.name().replaceAll("[^\\p{L}\\p{N}_-]+", "-") + ".img";
        KeepOrder order = new KeepOrder(file, disk.id(), disk.identity(), disk.name(), stick.id());
        NewRun.About about = new NewRun.About("Rescue medium", "", stick.name(), "target-" + disk.id(), disk.name());
        queue.add(NewRun.of(Run.Kind.KEEP, about, file).as(runId).expecting(disk.identity().sizeBytes(), 0, USUAL_SECONDS), order,
            Passphrase.NONE, who, () -> { });
        return runId;
    }

    private static void requireFit(RescueStick stick, Overwriting.RawFile file, TargetDisk target) {
        if (target.kind() != TargetDisk.Kind.STICK) {
            throw new Refused(HttpStatus.CONFLICT, "unfit-target", "targetId",
                target.inFull() + " is no stick. Choose one; a disk is written on the Restore page.");
        }
        if (!stick.serial().isEmpty() && !stick.serial().equalsIgnoreCase(target.identity().serial())) {
            throw new Refused(HttpStatus.CONFLICT, "another-stick", "targetId", "The register has " + stick.name() + " with serial "
                + stick.serial() + ", and " + target.inFull() + " is another stick. Take the right one, or register this one.");
        }
        if (file.bytes() > target.identity().sizeBytes()) {
            throw new Refused(HttpStatus.CONFLICT, "too-small", "targetId",
                file.name() + " does not fit onto " + target.inFull() + ". Take a larger stick.");
        }
    }

    /** Everything on the stick goes; its register says what is on it once it is read back. */
    UUID write(UUID id, String fileId, String targetId, String typed, String who) throws IOException {
        RescueStick stick = one(id);
        Overwriting.RawFile file = overwriting.rawFiles().stream().filter(each -> each.id().equals(fileId)).findFirst()
            .orElseThrow(() -> Refused.notFound("file"));
        if (!file.content().refusal().isEmpty()) {
            throw new Refused(HttpStatus.UNPROCESSABLE_ENTITY, "no-boot-image", "fileId", file.content().refusal());
        }
        TargetDisk target = targets.one(targetId);
        requireFit(stick, file, target);
        Overwriting.Confirmed confirmed = targets.confirmed(targetId, typed, Set.copyOf(file.liesOn()));
        UUID runId = UUID.randomUUID();
        Optional<RescueStick> of = keptFrom(fileId);
        StickOrder order = new StickOrder(fileId, file.where(),
            file.liesOn().stream().filter(serial -> !serial.isBlank()).toList(), confirmed, target.name(),
            of.map(RescueStick::imageDigest).orElse(""));
        String contents = of.map(RescueStick::contents).filter(known -> !known.isEmpty())
            .orElse(file.content().label().isEmpty() ? file.name() : file.content().label());
        NewRun.About about = new NewRun.About("Rescue medium", "", stick.name(), "target-" + targetId, target.name());
        queue.add(NewRun.of(Run.Kind.STICK, about, file.name()).as(runId).expecting(file.bytes(), 0, USUAL_SECONDS), order, Passphrase.NONE,
            who, () -> {
                stick.writing(runId, contents,
                    of.map(RescueStick::starts).filter(known -> !known.isEmpty()).orElse(file.content().starts()));
                sticks.save(stick);
                journal.add(who, "write medium", stick.name(), Journal.Result.BEGUN,
                    who + " confirmed " + target.inFull() + " to be overwritten with " + file.name() + ". It held: "
                        + String.join("; ", confirmed.holds()) + ".",
                    Journal.Facts.of(List.of(target.identity().serial()), Map.of("bytes", file.bytes()), "/rescue-media"));
            });
        return runId;
    }
}
