package app.granary.server.mail;

import java.time.Instant;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The outbox. */
@RestController
@RequestMapping("/api/v1/mail")
class MailController {
    private final Outbox outbox;

    MailController(Outbox outbox) {
        this.outbox = outbox;
    }

    /** @param trouble why it did not go; empty when it did */
    record MailLine(long id, Instant at, String to, String subject, String text, boolean sent, String trouble) {
        static MailLine from(Mail mail) {
            return new MailLine(mail.id(), mail.at(), mail.toAddresses(), mail.subject(), mail.text(), mail.sent(), mail.trouble());
        }
    }

    @GetMapping
    List<MailLine> newest() {
        return outbox.newest().stream().map(MailLine::from).toList();
    }

    @PostMapping("/{id}/again")
    MailLine again(@PathVariable long id) {
        return MailLine.from(outbox.again(id));
    }
}
