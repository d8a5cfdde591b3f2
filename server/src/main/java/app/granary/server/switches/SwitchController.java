package app.granary.server.switches;

import app.granary.engine.site.Site;
import app.granary.engine.site.Switchboard;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.security.Principal;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The switches of a made-up office; there are none where devices are real. */
@RestController
@RequestMapping("/api/v1/switches")
class SwitchController {
    private final Site site;
    private final Journal journal;

    SwitchController(Site site, Journal journal) {
        this.site = site;
        this.journal = journal;
    }

    /** @param once whether it happens once instead of lasting */
    record SwitchLine(String id, String subject, String what, boolean on, boolean once) {
        static SwitchLine from(Switchboard.Switch each) {
            return new SwitchLine(each.id(), each.subject(), each.what(), each.on(), each.once());
        }
    }

    record Turn(boolean on) {
    }

    @GetMapping
    List<SwitchLine> all() throws IOException {
        return site.switchboard().isEmpty() ? List.of() : site.switchboard().get().switches().stream().map(SwitchLine::from).toList();
    }

    @PutMapping("/{id}")
    List<SwitchLine> turn(@PathVariable String id, @RequestBody Turn turn, Principal who) throws IOException {
        Switchboard board = site.switchboard().orElseThrow(() -> Refused.notFound("switch"));
        board.turn(id, turn.on());
        board.switches().stream().filter(each -> each.id().equals(id)).findFirst().ifPresent(each -> journal.add(who.getName(), "simulate", each.subject(), Journal.Result.NOTE,
            each.subject() + " (made up): " + each.what() + (turn.on() ? "." : ", no longer.")));
        return all();
    }
}
