package app.granary.server.run;

import app.granary.core.plan.Afterwards;
import app.granary.core.plan.MailAddress;
import app.granary.server.capture.Completion;
import app.granary.server.capture.RunMail;
import app.granary.server.problem.Refused;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.Authentication;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What is to follow a run, chosen while it waits or runs. */
@RestController
@RequestMapping("/api/v1/runs/{id}")
class RunWishesController {
    private final Completion completion;
    private final RunMail mail;

    RunWishesController(Completion completion, RunMail mail) {
        this.completion = completion;
        this.mail = mail;
    }

    /** @param action "nothing", "off" or "restart" */
    record Then(@NotBlank(message = "must be chosen") String action) {
    }

    /** @param to who is told how it ended; empty for nobody */
    record ToBeMailed(@NotNull @Size(max = 20, message = "may have at most 20 addresses") List<@NotNull @Size(max = 200) String> to) {
    }

    static Afterwards parsed(String word) {
        return Afterwards.parse(word).orElseThrow(() -> new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "afterwards",
            "There is no \"" + word + "\" to do afterwards. Choose nothing, off or restart."));
    }

    static List<String> addresses(List<String> all) {
        List<String> out = all.stream().map(String::strip).filter(each -> !each.isEmpty()).distinct().toList();
        out.stream().filter(each -> !MailAddress.isOne(each)).findFirst().ifPresent(wrong -> {
            throw new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "mailTo", MailAddress.refusal(wrong));
        });
        return out;
    }

    /** What becomes of the computer when it has ended well. */
    @PutMapping("/afterwards")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void afterwards(@PathVariable UUID id, @Valid @RequestBody Then then, Authentication who) {
        completion.choose(id, parsed(then.action), who.getName());
    }

    /** Who is told how it ended. */
    @PutMapping("/mail")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void mail(@PathVariable UUID id, @Valid @RequestBody ToBeMailed told, Authentication who) {
        mail.choose(id, addresses(told.to), who.getName());
    }
}
