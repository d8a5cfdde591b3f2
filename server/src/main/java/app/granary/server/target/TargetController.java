package app.granary.server.target;

import app.granary.core.target.Preparation;
import app.granary.core.target.TargetDisk;
import app.granary.core.target.TargetLook;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.Overwriting;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import app.granary.server.queue.NewRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunQueue;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.security.Principal;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Stream;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What could be overwritten, and drives that are made ready. */
@RestController
@RequestMapping("/api/v1/targets")
class TargetController {
    private static final double USUAL_SECONDS = 60;

    private final Targets targets;
    private final RunQueue queue;
    private final Journal journal;
    private final Replugs replugs;

    TargetController(Targets targets, Replugs replugs, RunQueue queue, Journal journal) {
        this.targets = targets;
        this.queue = queue;
        this.journal = journal;
        this.replugs = replugs;
    }

    /**
     * @param kind    "spare", "stick", "fixed", "drive"
     * @param holds   what is on it, a line each; empty in the list of all, which reads nothing of them
     * @param ask     what is to be typed to confirm it: "the last four characters of its serial number"
     * @param refusal why it must not be overwritten; an empty string when it may be
     * @param typedAt name of the computer at whose console that was typed a moment ago, so that it need not be typed here; an empty string
     *                when it was not
     * @param untold  whether it cannot be told from another until a person pulls it and plugs it in again
     */
    record TargetLine(String id, String name, String model, String serial, long sizeBytes, int sectorBytes, String bus, String kind,
        boolean attached, List<String> holds, int images, String ask, String typedAt, String refusal, boolean untold) {
    }

    /** Nothing on them is read for the list, so none says what it holds. */
    @GetMapping
    List<TargetLine> all() throws IOException {
        return targets.all().stream().map(each -> line(each, List.of())).toList();
    }

    /** One of them, with what is on it. */
    @GetMapping("/{id}")
    TargetLine one(@PathVariable String id) throws IOException {
        TargetLook look = targets.look(id);
        return line(look.disk(), look.holds());
    }

    private TargetLine line(TargetDisk target, List<String> holds) {
        return new TargetLine(target.id(), target.name(), target.identity().model(), target.identity().serial(),
            target.identity().sizeBytes(), target.sectorBytes(), target.bus(), target.kind().word(), target.attached(), holds,
            target.images().size(),
            target.identity().serial().isEmpty() ? "the last four characters of its name"
                : "the last four characters of its serial number",
            targets.typedThere(target).map(TypedThere.Typed::where).orElse(""),
            targets.refusals(target, Set.of()).stream().findFirst().orElse(""), targets.untold(target));
    }

    /** Watches for the disk that is pulled and plugged in again. */
    @PostMapping("/{id}/replug")
    Replugs.Progress replug(@PathVariable String id, Principal who) throws IOException {
        Replugs.Progress begun = replugs.begin(id);
        journal.add(who.getName(), "tell apart", begun.name(), Journal.Result.NOTE,
            who.getName() + " is to pull the disk that is meant and plug it in again, since "
                + begun.name() + " cannot be told from another by what it says.");
        return begun;
    }

    @GetMapping("/replug")
    Replugs.Progress replug() throws IOException {
        return replugs.progress();
    }

    /** A file system the store can have, and when to choose it. */
    record FileSystemChoice(String word, String why) {
    }

    @GetMapping("/file-systems")
    List<FileSystemChoice> fileSystems() {
        return Stream.of(Preparation.StoreFileSystem.values()).map(each -> new FileSystemChoice(each.word(), each.why())).toList();
    }

    /**
     * @param scheme      "gpt" or "mbr"
     * @param rescueBytes of a FAT32 partition in front; 0 for none
     */
    record PrepareRequest(@NotNull(message = "must be typed") String confirmation, @NotNull String scheme, @NotNull String fileSystem,
        @NotBlank(message = "needs a name") String name, @Min(0) long rescueBytes) {
        Preparation preparation() {
            try {
                return new Preparation(Preparation.Scheme.valueOf(scheme.toUpperCase(java.util.Locale.ROOT)),
                    Preparation.StoreFileSystem.valueOf(fileSystem.toUpperCase(java.util.Locale.ROOT)), name.strip(), rescueBytes);
            } catch (IllegalArgumentException unknown) {
                throw new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "fileSystem",
                    "There is no scheme \"" + scheme + "\" or file system \"" + fileSystem + "\". Choose one that is listed.");
            }
        }
    }

    record PrepareBegun(UUID runId) {
    }

    /** Everything on it goes. */
    @PostMapping("/{id}/prepare")
    PrepareBegun prepare(@PathVariable String id, @Valid @RequestBody PrepareRequest request, Principal who) throws IOException {
        Preparation how = request.preparation();
        Overwriting.Confirmed confirmed = targets.confirmed(id, request.confirmation, Set.of());
        TargetDisk target = targets.one(id);
        List<String> problems = how.problems(target.identity().sizeBytes(), target.sectorBytes());
        if (!problems.isEmpty()) {
            throw new Refused(HttpStatus.UNPROCESSABLE_ENTITY, "bad-choice", "name", problems.get(0));
        }
        UUID runId = UUID.randomUUID();
        NewRun.About about = new NewRun.About("Drive", "", target.name(), "target-" + target.id(), target.name());
        queue.add(NewRun.of(Run.Kind.PREPARE, about, how.name()).as(runId).expecting(0, 0, USUAL_SECONDS),
            new PreparationOrder(confirmed, how), Passphrase.NONE, who.getName(),
            () -> journal.add(who.getName(), "prepare", target.name(), Journal.Result.BEGUN,
                who.getName() + " confirmed " + target.inFull() + " to be prepared as " + how.name() + ", " + how.fileSystem().word()
                    + ". It held: "
                    + String.join("; ", confirmed.holds()) + ".",
                Journal.Facts.of(List.of(target.identity().serial()), java.util.Map.of(), "/runs")));
        return new PrepareBegun(runId);
    }
}
