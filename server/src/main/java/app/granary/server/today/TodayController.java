package app.granary.server.today;

import app.granary.core.proof.ProofLevel;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.image.Images;
import app.granary.server.problem.Refused;
import app.granary.server.run.Runs;
import app.granary.server.run.UnfinishedController;
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
    private final Todos todos;
    private final Runs runs;

    TodayController(UnfinishedController unfinished, Images images, CoverLines covers, Todos todos, Runs runs) {
        this.unfinished = unfinished;
        this.images = images;
        this.covers = covers;
        this.todos = todos;
        this.runs = runs;
    }

    record Today(String sentence, List<Todo> todos, List<UnfinishedController.UnfinishedLine> unfinished, List<CoverLines.CoverLine> cover) {
    }

    @GetMapping
    Today today() throws IOException {
        List<UnfinishedController.UnfinishedLine> left = unfinished.all();
        List<Images.Standings> standings = images.standings();
        List<CoverLines.CoverLine> cover = covers.of(standings);
        List<Todo> needs = todos.of(left, standings, cover);
        return new Today(sentence(cover, needs), needs, left, cover);
    }

    /** Checks the newest image of a disk. */
    @PostMapping("/disks/{diskId}/check")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void check(@PathVariable String diskId, Principal who) throws IOException {
        Images.Standings newest = images.standings().stream().filter(image -> image.diskId().equals(diskId) && !image.paper() && !image.standing().damaged()).findFirst()
            .orElseThrow(() -> Refused.notFound("image"));
        runs.beginCheck(newest.id(), newest.encrypted() ? ProofLevel.SOUND : ProofLevel.READABLE, Passphrase.NONE, false, who.getName());
    }

    private static String sentence(List<CoverLines.CoverLine> cover, List<Todo> todos) {
        long covered = cover.stream().filter(each -> each.newest() != null && !each.state().equals("late") && !each.state().equals("unproven")).count();
        return (todos.isEmpty() ? "Nothing needs you. " : todos.size() == 1 ? "One thing needs you. " : todos.size() + " things need you. ") + covered + " of " + cover.size() + " disks covered; "
            + cover.stream().filter(each -> each.state().equals("due") || each.words().contains("due tonight")).count() + " due tonight.";
    }
}
