package app.granary.server.today;

import app.granary.core.proof.ProofLevel;
import app.granary.core.today.TodayFacts;
import app.granary.core.today.Todo;
import app.granary.core.today.Todos;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.image.Images;
import app.granary.server.problem.Refused;
import app.granary.server.check.Checks;
import app.granary.server.capture.UnfinishedController;
import java.io.IOException;
import java.security.Principal;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The morning's page. */
@RestController
@RequestMapping("/api/v1/today")
class TodayController {
    private final UnfinishedController unfinished;
    private final Images images;
    private final CoverLines covers;
    private final Morning morning;
    private final Checks checks;

    TodayController(UnfinishedController unfinished, Images images, CoverLines covers, Morning morning, Checks checks) {
        this.unfinished = unfinished;
        this.images = images;
        this.covers = covers;
        this.morning = morning;
        this.checks = checks;
    }

    record Today(String sentence, List<TodoLine> todos, List<UnfinishedController.UnfinishedLine> unfinished,
        List<CoverLines.CoverLine> cover) {
    }

    @GetMapping
    Today today() throws IOException {
        List<UnfinishedController.UnfinishedLine> left = unfinished.all();
        List<Images.Standings> standings = images.standings();
        List<CoverLines.Covered> cover = covers.of(images.standingsByDisk());
        List<TodayFacts.Disk> disks = cover.stream().map(CoverLines.Covered::disk).toList();
        List<Todo> todos = Todos.of(morning.facts(left, standings, disks));
        return new Today(Todos.sentence(todos, disks), todos.stream().map(TodoLine::from).toList(), left,
            cover.stream().map(CoverLines.Covered::line).toList());
    }

    /** Checks the newest image of a disk. */
    @PostMapping("/disks/{diskId}/check")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void check(@PathVariable String diskId, Principal who) throws IOException {
        Images.Standings newest = images.standings().stream()
            .filter(image -> image.diskId().equals(diskId) && !image.paper() && !image.standing().damaged()).findFirst()
            .orElseThrow(() -> Refused.notFound("image"));
        checks.begin(newest.id(), newest.encrypted() ? ProofLevel.SOUND : ProofLevel.READABLE, Passphrase.NONE, false, who.getName());
    }
}
