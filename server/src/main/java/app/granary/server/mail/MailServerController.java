package app.granary.server.mail;

import app.granary.server.problem.IfMatch;
import app.granary.server.problem.Refused;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Email;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.mail.MailException;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Which server carries the mail, and a try. */
@RestController
@RequestMapping("/api/v1/mail-server")
class MailServerController {
    private final MailServers servers;
    private final Mailer mailer;

    MailServerController(MailServers servers, Mailer mailer) {
        this.servers = servers;
        this.mailer = mailer;
    }

    /**
     * @param host        an empty string while none is set up
     * @param security    "none", "starttls" or "tls"
     * @param hasPassword whether it has one, which nobody is told
     * @param version     for If-Match
     */
    record MailServerLine(String host, int port, String security, String account, boolean hasPassword, String sender, long version) {
        static MailServerLine of(Optional<MailServer> server) {
            return server.map(each -> new MailServerLine(each.host(), each.port(), each.security().word(), each.account(),
                !each.secret().isEmpty(), each.sender(), MailServers.seen(server)))
                .orElse(new MailServerLine("", 587, "starttls", "", false, "", 0));
        }
    }

    @GetMapping
    MailServerLine one() {
        return MailServerLine.of(servers.one());
    }

    /**
     * @param password     the new one, empty for none; of no meaning with {@code samePassword}
     * @param samePassword whether the one it has stays
     * @param sender       the address mails come from
     */
    record MailServerForm(@NotBlank(message = "is needed: the server's name or address") @Size(max = 255) @Pattern(regexp = "[^\\s/@]+",
        message = "is the server's name alone, as mail.example.org") String host,
        @Min(value = 1, message = "is from 1 to 65535") @Max(value = 65535, message = "is from 1 to 65535") int port,
        @NotNull @Pattern(regexp = "none|starttls|tls", message = "is none, starttls or tls") String security,
        @NotNull @Size(max = 255) String account, @NotNull @Size(max = 1000) String password, boolean samePassword,
        @NotBlank(message = "is needed: the address mails come from") @Size(max = 255) @Email(message = "is no mail address")
        String sender) {
        @Override
        public String toString() {
            return host + ":" + port; // never the password
        }
    }

    @PutMapping
    MailServerLine choose(@RequestHeader(HttpHeaders.IF_MATCH) String version, @Valid @RequestBody MailServerForm form, Principal who) {
        return MailServerLine.of(Optional.of(servers.choose(new MailServers.Choice(form.host, form.port,
            MailServer.Security.valueOf(form.security.toUpperCase(Locale.ROOT)), form.account, form.password, form.samePassword,
            form.sender, IfMatch.version(version)), who.getName())));
    }

    /** Mails stay in the outbox from then on. */
    @DeleteMapping
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(Principal who) {
        servers.remove(who.getName());
    }

    record TestMail(@NotBlank(message = "is needed: where the test mail goes") @Email(message = "is no mail address") @Size(max = 255)
        String to) {
    }

    record TestSaid(String sentence) {
    }

    /** Sends one mail by what is set up, at once; refused with what the server said. */
    @PostMapping("/test")
    TestSaid test(@Valid @RequestBody TestMail wanted, Principal who) {
        if (!mailer.isSetUp()) {
            throw new Refused(HttpStatus.CONFLICT, "no-mail-server", "host", "No mail server is set up. Enter one and save it first.");
        }
        try {
            mailer.send(List.of(wanted.to), "Granary: a test", "This mail was sent by Granary because " + who.getName()
                + " tried its mail server. If you read it, mails of the night arrive.");
        } catch (MailException refused) {
            throw new Refused(HttpStatus.BAD_GATEWAY, "mail-refused", "host", "The mail server did not take it: "
                + Mailer.reason(refused) + ". Check host, port, security and account.");
        }
        return new TestSaid("The mail server took it. Look whether it arrives at " + wanted.to + ".");
    }
}
