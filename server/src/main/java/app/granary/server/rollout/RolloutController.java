package app.granary.server.rollout;

import app.granary.core.runbook.Runbook;
import app.granary.core.target.TargetDisk;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import app.granary.server.restore.RestorationRecords;
import app.granary.server.restore.Restorations;
import app.granary.server.queue.Passphrases;
import app.granary.server.target.Targets;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Rollouts: a reference image, a list of computers, each ticked off. */
@RestController
@RequestMapping("/api/v1/rollouts")
class RolloutController {
    private final RolloutRepository rollouts;
    private final Restorations restorations;
    private final RestorationRecords written;
    private final Targets targets;
    private final Images images;
    private final Journal journal;
    private final Clock clock;

    RolloutController(RolloutRepository rollouts, Restorations restorations, RestorationRecords written, Targets targets, Images images,
        Journal journal, Clock clock) {
        this.rollouts = rollouts;
        this.restorations = restorations;
        this.written = written;
        this.targets = targets;
        this.images = images;
        this.journal = journal;
        this.clock = clock;
    }

    /**
     * @param state   "waiting", "queued", "running", "done", "failed"
     * @param refusal why the image cannot go there; an empty string when it can
     * @param id      of the restore; null before it was begun
     */
    record RolloutMemberLine(String computer, String targetId, String target, String serial, long sizeBytes, String state, String refusal,
        String outcome, @Schema(types = {
            "string", "null"}) UUID id,
        @Schema(types = {"string", "null"}) Instant signedAt, String signedBy){
    }

    record RolloutLine(UUID id, String name, UUID imageId, String imageName, boolean encrypted, Instant begunAt, String begunBy,
        @Schema(types = {
            "string", "null"}) Instant endedAt,
        List<RolloutMemberLine> members, List<String> unique, String sentence){
    }

    @GetMapping
    List<RolloutLine> all() throws IOException {
        Map<String, TargetDisk> there = targets.all().stream().collect(Collectors.toMap(TargetDisk::id, Function.identity()));
        List<RolloutLine> out = new ArrayList<>();
        for (Rollout each : rollouts.findAllByOrderByBegunAtDesc()) {
            out.add(line(each, there));
        }
        return out;
    }

    private RolloutLine line(Rollout rollout, Map<String, TargetDisk> there) {
        List<RestorationRecords.Rolled> rolled = written.ofRollout(rollout.id());
        List<RolloutMemberLine> members = rollout.members().stream().map(member -> {
            Optional<RestorationRecords.Rolled> last = rolled.stream().filter(each -> each.computer().equals(member.computer()))
                .reduce((a, b) -> b);
            Optional<TargetDisk> target = Optional.ofNullable(there.get(member.targetId()));
            String refusal = last.isPresent() || rollout.endedAt() != null ? "" : refusal(rollout, member);
            return new RolloutMemberLine(member.computer(), member.targetId(), target.map(TargetDisk::name).orElse("not attached"),
                target.map(each -> each.identity().serial()).orElse(""), target.map(each -> each.identity().sizeBytes()).orElse(0L),
                last.map(each -> each.state().equals("asked") ? "running" : each.state()).orElse("waiting"), refusal,
                last.map(RestorationRecords.Rolled::outcome).orElse(""), last.map(RestorationRecords.Rolled::id).orElse(null),
                last.map(RestorationRecords.Rolled::signedAt).orElse(null), last.map(RestorationRecords.Rolled::signedBy).orElse(""));
        }).toList();
        long signed = members.stream().filter(each -> each.signedAt != null).count();
        return new RolloutLine(rollout.id(), rollout.name(), rollout.imageId(), rollout.imageName(), images.isEncrypted(rollout.imageId()),
            rollout.begunAt(), rollout.begunBy(), rollout.endedAt(), members, Runbook.UNIQUE,
            signed + " of " + members.size() + " signed"
                + (rollout.endedAt() != null ? "; ended." : "; its image is kept until it is ended."));
    }

    /** What an encrypted image holds is only known with its passphrase: then it is asked when the computer is written. */
    private String refusal(Rollout rollout, Rollout.Member member) {
        try {
            if (images.isEncrypted(rollout.imageId())) {
                return targets.refusals(targets.one(member.targetId()), Set.of()).stream().findFirst().orElse("");
            }
            return restorations.fit(rollout.imageId(), member.targetId(), "grow", Passphrase.NONE);
        } catch (IOException | Refused cannot) {
            return cannot.getMessage();
        }
    }

    record NewRolloutMember(@NotBlank(message = "needs a name") @Size(max = 60) String computer,
        @NotBlank(message = "choose its disk") String targetId) {
    }

    record NewRollout(@NotBlank(message = "needs a name") @Size(max = 100) String name, @NotNull(message = "choose an image") UUID imageId,
        @NotEmpty(message = "needs at least one computer") List<@Valid NewRolloutMember> members) {
    }

    record RolloutMade(UUID id) {
    }

    @PostMapping
    RolloutMade begin(@Valid @RequestBody NewRollout wanted, Principal who) {
        if (wanted.members.stream().map(NewRolloutMember::targetId).distinct().count() < wanted.members.size()
            || wanted.members.stream().map(each -> each.computer.strip()).distinct().count() < wanted.members.size()) {
            throw new Refused(HttpStatus.UNPROCESSABLE_ENTITY, "twice", "members",
                "A computer or a disk is in the list twice. Take one of them out.");
        }
        Images.Shelved image = images.shelved(wanted.imageId);
        Rollout rollout = rollouts.save(new Rollout(wanted.name.strip(), wanted.imageId, image.name(),
            wanted.members.stream().map(each -> new Rollout.Member(each.computer.strip(), each.targetId)).toList(), clock.instant(),
            who.getName()));
        journal.add(who.getName(), "rollout", rollout.name(), Journal.Result.BEGUN,
            image.name() + " is to go onto " + wanted.members.size() + " computers. It is kept while that runs.");
        return new RolloutMade(rollout.id());
    }

    private Rollout one(UUID id) {
        return rollouts.findById(id).orElseThrow(() -> Refused.notFound("rollout"));
    }

    record RolloutStart(@NotBlank String computer, @NotNull String confirmation, @Schema(types = {
        "string", "null"}) String passphrase){
        @Override
        public String toString() {
            return confirmation; // never the passphrase
        }
    }

    @PostMapping("/{id}/start")
    RolloutMade start(@PathVariable UUID id, @Valid @RequestBody RolloutStart start, Principal who) throws IOException {
        Rollout rollout = one(id);
        Rollout.Member member = rollout.members().stream().filter(each -> each.computer().equals(start.computer)).findFirst()
            .orElseThrow(() -> Refused.notFound("computer"));
        Passphrase secret = Passphrases.told(start.passphrase);
        return new RolloutMade(restorations.rollOut(id, rollout.imageId(), member.targetId(), start.confirmation, member.computer(), "grow",
            secret, who.getName()));
    }

    @PostMapping("/{id}/end")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void end(@PathVariable UUID id, Principal who) {
        Rollout rollout = one(id);
        rollout.end(clock.instant(), who.getName());
        rollouts.save(rollout);
        journal.add(who.getName(), "rollout", rollout.name(), Journal.Result.DONE,
            "The rollout of " + rollout.imageName() + " is ended; "
                + written.ofRollout(id).stream().filter(each -> each.signedAt() != null).count() + " of "
                + rollout.members().size() + " computers are signed.");
    }
}
