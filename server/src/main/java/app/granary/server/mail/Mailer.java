package app.granary.server.mail;

import java.util.List;
import java.util.Optional;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.mail.MailException;
import org.springframework.mail.SimpleMailMessage;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.stereotype.Component;

/**
 * Carries a mail out of the house, by the server a person set up, or else by one that was named at the start; without either it stays in
 * the outbox, which is where a made-up office reads it.
 */
@Component
class Mailer {
    private final MailServers servers;
    private final ObjectProvider<JavaMailSender> named;
    private final String from;

    Mailer(MailServers servers, ObjectProvider<JavaMailSender> named, @Value("${granary.mail-from:granary@localhost}") String from) {
        this.servers = servers;
        this.named = named;
        this.from = from;
    }

    /** Whether mail leaves the house at all. */
    boolean isSetUp() {
        return servers.one().isPresent() || named.getIfAvailable() != null;
    }

    /** @throws MailException when the mail server does not take it */
    void send(List<String> to, String subject, String text) {
        Optional<MailServer> server = servers.one();
        SimpleMailMessage message = new SimpleMailMessage();
        message.setFrom(server.map(MailServer::sender).orElse(from));
        message.setTo(to.toArray(String[]::new));
        message.setSubject(subject);
        message.setText(text);
        (server.isPresent() ? servers.sender(server.get()) : named.getObject()).send(message);
    }

    /** What the server said, without the names of classes and without a full stop. */
    static String reason(MailException refused) {
        Throwable deepest = refused;
        while (deepest.getCause() != null) {
            deepest = deepest.getCause();
        }
        String said = deepest.getMessage() == null ? deepest.getClass().getSimpleName() : deepest.getMessage();
        return said.lines().findFirst().orElse("").strip().replaceFirst("\\.$", "");
    }
}
