package app.granary.server.mail;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.granary.server.home.GranarySettings;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.mail.MailException;
import org.springframework.mail.javamail.JavaMailSender;

/** Mail goes to a server that speaks as RFC 5321 and RFC 4954 have it, over a real connection. */
class MailServersTest {
    @TempDir
    Path home;
    private final List<MailServer> rows = new ArrayList<>();
    private final MailServerRepository repository = mock(MailServerRepository.class);
    private final Journal journal = mock(Journal.class);
    private MailServers servers;
    private Mailer mailer;

    @BeforeEach
    @SuppressWarnings("unchecked")
    void begin() {
        when(repository.findById(MailServer.ONLY)).thenAnswer(call -> rows.stream().findFirst());
        when(repository.saveAndFlush(any())).thenAnswer(call -> {
            rows.clear();
            rows.add(call.getArgument(0));
            return call.getArgument(0);
        });
        servers = new MailServers(repository, key(home), journal);
        mailer = new Mailer(servers, mock(ObjectProvider.class), "granary@localhost");
    }

    private static MailKey key(Path home) {
        GranarySettings settings = mock(GranarySettings.class);
        when(settings.home()).thenReturn(home);
        return new MailKey(settings);
    }

    /** One visit; what it was told is kept. It takes the password "lichen" alone. */
    private static final class Post implements AutoCloseable {
        private final ServerSocket door = new ServerSocket(0, 1, InetAddress.getLoopbackAddress());
        private final List<String> heard = new CopyOnWriteArrayList<>();

        Post() throws IOException {
            Thread serving = new Thread(this::serve);
            serving.setDaemon(true);
            serving.start();
        }

        private void serve() {
            try (Socket visit = door.accept();
                BufferedReader in = new BufferedReader(new InputStreamReader(visit.getInputStream(), StandardCharsets.UTF_8))) {
                say(visit, "220 post ESMTP");
                boolean text = false;
                for (String line = in.readLine(); line != null; line = in.readLine()) {
                    heard.add(line);
                    if (text) {
                        text = !line.equals(".");
                        if (!text) {
                            say(visit, "250 taken");
                        }
                    } else if (line.startsWith("EHLO")) {
                        say(visit, "250-post\r\n250 AUTH PLAIN");
                    } else if (line.startsWith("AUTH PLAIN ")) {
                        String told = new String(Base64.getDecoder().decode(line.substring(11)), StandardCharsets.UTF_8);
                        say(visit, told.endsWith("\0night\0lichen") ? "235 welcome" : "535 5.7.8 Who are you?");
                    } else if (line.equals("DATA")) {
                        text = true;
                        say(visit, "354 go on");
                    } else {
                        say(visit, line.startsWith("QUIT") ? "221 bye" : "250 ok");
                    }
                }
            } catch (IOException ended) {
                // the visitor has gone
            }
        }

        private static void say(Socket visit, String line) throws IOException {
            visit.getOutputStream().write((line + "\r\n").getBytes(StandardCharsets.UTF_8));
            visit.getOutputStream().flush();
        }

        @Override
        public void close() throws IOException {
            door.close();
        }
    }

    private MailServers.Choice choice(int port, MailServer.Security security, String password, boolean same) {
        return new MailServers.Choice("127.0.0.1", port, security, "night", password, same, "granary@office.example",
            MailServers.seen(servers.one()));
    }

    @Test
    void aMailGoesByWhatWasSetUpAndThePasswordLiesNowhereInTheOpen() throws IOException {
        assertFalse(mailer.isSetUp());
        try (Post post = new Post()) {
            servers.choose(choice(post.door.getLocalPort(), MailServer.Security.NONE, "lichen", false), "ada");
            mailer.send(List.of("nell@office.example"), "Übung", "All made.");
            assertTrue(post.heard.contains("MAIL FROM:<granary@office.example>"), post.heard.toString());
            assertTrue(post.heard.contains("RCPT TO:<nell@office.example>"), post.heard.toString());
            assertTrue(post.heard.contains("All made."), post.heard.toString());
        }
        assertFalse(rows.get(0).secret().contains("lichen"));
        Path file = home.resolve("db/mail.key");
        assertEquals("rw-------", PosixFilePermissions.toString(Files.getPosixFilePermissions(file)));
        assertEquals(32, Files.size(file));
        try (Post post = new Post()) {
            servers.choose(choice(post.door.getLocalPort(), MailServer.Security.NONE, "", true), "ada");
            mailer.send(List.of("nell@office.example"), "s", "the password stays");
            assertTrue(post.heard.contains("the password stays"), post.heard.toString());
        }
        // a database that was brought back without the key beside it
        Files.delete(file);
        MailException told = assertThrows(MailException.class, () -> mailer.send(List.of("nell@office.example"), "s", "t"));
        assertEquals("Its password cannot be read with the key beside this database. Type it again in the settings", Mailer.reason(told));
    }

    @Test
    void whatTheServerRefusesIsSaidInItsOwnWords() throws IOException {
        try (Post post = new Post()) {
            servers.choose(choice(post.door.getLocalPort(), MailServer.Security.NONE, "moss", false), "ada");
            MailException told = assertThrows(MailException.class, () -> mailer.send(List.of("nell@office.example"), "s", "t"));
            assertEquals("535 5.7.8 Who are you?", Mailer.reason(told));
        }
        try (Post post = new Post()) {
            servers.choose(choice(post.door.getLocalPort(), MailServer.Security.STARTTLS, "lichen", false), "ada");
            MailException told = assertThrows(MailException.class, () -> mailer.send(List.of("nell@office.example"), "s", "t"));
            assertTrue(Mailer.reason(told).contains("STARTTLS"), Mailer.reason(told));
            assertFalse(post.heard.stream().anyMatch(line -> line.startsWith("AUTH")), "nothing is told in the open: " + post.heard);
        }
    }

    @Test
    void aPasswordIsNotSentInTheOpenAndNobodyWritesOverAnothersChange() {
        Refused open = assertThrows(Refused.class, () -> servers.choose(new MailServers.Choice("mail.example.org", 25,
            MailServer.Security.NONE, "night", "lichen", false, "granary@office.example", 0), "ada"));
        assertTrue(open.getMessage().startsWith("The password of night would go to mail.example.org for everyone to read."),
            open.getMessage());
        servers.choose(choice(25, MailServer.Security.TLS, "lichen", false), "ada");
        assertThrows(Refused.class, () -> servers.choose(new MailServers.Choice("h", 25, MailServer.Security.TLS, "", "", false, "a@b.c",
            0), "ada"));
        assertEquals(Optional.of("lichen"), key(home).plain(rows.get(0).secret()));
        assertEquals(Optional.empty(), key(home).plain("no base64!"));
        assertEquals(Optional.empty(), key(home).plain("AAAA"));
    }
}
