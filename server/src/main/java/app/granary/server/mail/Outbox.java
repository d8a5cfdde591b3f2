package app.granary.server.mail;

import app.granary.server.problem.Refused;
import java.time.Clock;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.data.domain.Limit;
import org.springframework.mail.MailException;
import org.springframework.stereotype.Service;

/** Every mail, newest first, with whether it went. */
@Service
public class Outbox {
    private static final Logger LOG = LoggerFactory.getLogger(Outbox.class);
    private static final Limit SHOWN = Limit.of(100);

    private final MailRepository mails;
    private final Mailer mailer;
    private final Clock clock;

    Outbox(MailRepository mails, Mailer mailer, Clock clock) {
        this.mails = mails;
        this.mailer = mailer;
        this.clock = clock;
    }

    /** @param to not empty */
    public void send(List<String> to, String subject, String text) {
        deliver(mails.save(new Mail(clock.instant(), String.join(", ", to), subject, text)));
    }

    private Mail deliver(Mail mail) {
        if (!mailer.isSetUp()) {
            mail.failed("No mail server is set up; it is kept here to be read.");
            return mails.save(mail);
        }
        try {
            mailer.send(List.of(mail.toAddresses().split(", ")), mail.subject(), mail.text());
            mail.went();
        } catch (MailException refused) {
            LOG.warn("mail {} did not go", mail.id(), refused);
            mail.failed("The mail server did not take it: " + Mailer.reason(refused) + ". Check its settings, then send it again.");
        }
        return mails.save(mail);
    }

    List<Mail> newest() {
        return mails.findAllByOrderByIdDesc(SHOWN);
    }

    Mail again(long id) {
        return deliver(mails.findById(id).orElseThrow(() -> Refused.notFound("mail")));
    }
}
