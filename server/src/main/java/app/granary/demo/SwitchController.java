package app.granary.demo;

import app.granary.server.journal.Journal;
import app.granary.standins.Switchboard;
import java.io.IOException;
import java.security.Principal;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The switches of the made-up office. */
@RestController
@RequestMapping("/api/v1/switches")
class SwitchController {
    private final Switchboard board;
    private final Journal journal;

    SwitchController(Switchboard board, Journal journal) {
        this.board = board;
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
        return board.switches().stream().map(SwitchLine::from).toList();
    }

    @PutMapping("/{id}")
    List<SwitchLine> turn(@PathVariable String id, @RequestBody Turn turn, Principal who) throws IOException {
        board.turn(id, turn.on());
        board.switches().stream().filter(each -> each.id().equals(id)).findFirst()
            .ifPresent(each -> journal.add(who.getName(), "simulate", each.subject(), Journal.Result.NOTE,
                each.subject() + " (made up): " + each.what() + (turn.on() ? "." : ", no longer.")));
        return all();
    }
}
