package app.granary.server.mail;

import java.util.List;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.mail.MailException;
import org.springframework.mail.SimpleMailMessage;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.stereotype.Component;

/** Carries a mail out of the house; without a mail server it stays in the outbox, which is where a made-up office reads it. */
@Component
class Mailer {
    private final ObjectProvider<JavaMailSender> sender;
    private final String from;

    Mailer(ObjectProvider<JavaMailSender> sender, @Value("${granary.mail-from:granary@localhost}") String from) {
        this.sender = sender;
        this.from = from;
    }

    /** Whether mail leaves the house at all. */
    boolean isSetUp() {
        return sender.getIfAvailable() != null;
    }

    /** @throws MailException when the mail server does not take it */
    void send(List<String> to, String subject, String text) {
        SimpleMailMessage message = new SimpleMailMessage();
        message.setFrom(from);
        message.setTo(to.toArray(String[]::new));
        message.setSubject(subject);
        message.setText(text);
        sender.getObject().send(message);
    }
}
