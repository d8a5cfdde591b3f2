package app.granary.server.mail;

import app.granary.server.journal.Journal;
import app.granary.server.problem.IfMatch;
import app.granary.server.problem.Refused;
import java.util.Optional;
import java.util.Properties;
import java.util.Set;
import org.springframework.http.HttpStatus;
import org.springframework.mail.javamail.JavaMailSenderImpl;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The mail server of the office: what it is, and what speaks with it. */
@Service
class MailServers {
    private static final Set<String> HERE = Set.of("localhost", "127.0.0.1", "::1");
    private static final String CONNECT_MILLIS = "10000";
    private static final String ANSWER_MILLIS = "20000";

    private final MailServerRepository repository;
    private final MailKey key;
    private final Journal journal;

    MailServers(MailServerRepository repository, MailKey key, Journal journal) {
        this.repository = repository;
        this.key = key;
        this.journal = journal;
    }

    /**
     * @param password empty for the one it has, if {@code samePassword}; otherwise the new one, empty for none
     * @param version  0 while none is set up
     */
    record Choice(String host, int port, MailServer.Security security, String account, String password, boolean samePassword,
        String sender, long version) {
    }

    Optional<MailServer> one() {
        return repository.findById(MailServer.ONLY);
    }

    static long seen(Optional<MailServer> server) {
        return server.map(each -> each.version() + 1).orElse(0L);
    }

    @Transactional
    MailServer choose(Choice wanted, String by) {
        Optional<MailServer> now = one();
        if (seen(now) != wanted.version) {
            throw IfMatch.changedMeanwhile("the mail server");
        }
        if (wanted.security == MailServer.Security.NONE && !wanted.account.isBlank() && !HERE.contains(wanted.host.strip())) {
            throw new Refused(HttpStatus.UNPROCESSABLE_ENTITY, "open-password", "security", "The password of " + wanted.account.strip()
                + " would go to " + wanted.host.strip() + " for everyone to read. Choose STARTTLS or TLS, or leave the account empty.");
        }
        MailServer server = now.orElseGet(MailServer::new);
        server.choose(wanted.host.strip(), wanted.port, wanted.security, wanted.account.strip(), wanted.samePassword ? server.secret()
            : key.enciphered(wanted.password), wanted.sender.strip());
        repository.saveAndFlush(server);
        journal.add(by, "settings", "mail", Journal.Result.DONE, by + " set the mail server to " + server.host() + ", port " + server.port()
            + ", " + server.security().word()
            + (server.account().isEmpty() ? ", without an account." : ", account " + server.account() + "."));
        return server;
    }

    @Transactional
    void remove(String by) {
        one().ifPresent(server -> {
            repository.delete(server);
            journal.add(by, "settings", "mail", Journal.Result.DONE, by + " removed the mail server " + server.host() + ".");
        });
    }

    /** @throws MailNotSet when its password cannot be read any more */
    JavaMailSenderImpl sender(MailServer server) {
        JavaMailSenderImpl sender = new JavaMailSenderImpl();
        sender.setHost(server.host());
        sender.setPort(server.port());
        sender.setDefaultEncoding("UTF-8");
        Properties mail = sender.getJavaMailProperties();
        if (!server.account().isEmpty()) {
            sender.setUsername(server.account());
            sender.setPassword(key.plain(server.secret()).orElseThrow(() -> new MailNotSet("Its password cannot be read with the key "
                + "beside this database. Type it again in the settings.")));
            mail.setProperty("mail.smtp.auth", "true");
        }
        mail.setProperty("mail.smtp.starttls.enable", "" + (server.security() == MailServer.Security.STARTTLS));
        mail.setProperty("mail.smtp.starttls.required", "" + (server.security() == MailServer.Security.STARTTLS));
        mail.setProperty("mail.smtp.ssl.enable", "" + (server.security() == MailServer.Security.TLS));
        mail.setProperty("mail.smtp.ssl.checkserveridentity", "true");
        mail.setProperty("mail.smtp.connectiontimeout", CONNECT_MILLIS);
        mail.setProperty("mail.smtp.timeout", ANSWER_MILLIS);
        mail.setProperty("mail.smtp.writetimeout", ANSWER_MILLIS);
        return sender;
    }

    /** A mail cannot go, for what a person can set right. */
    static final class MailNotSet extends org.springframework.mail.MailException {
        private static final long serialVersionUID = 1L;

        MailNotSet(String sentence) {
            super(sentence);
        }
    }
}
