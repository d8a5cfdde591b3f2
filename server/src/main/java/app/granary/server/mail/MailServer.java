package app.granary.server.mail;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;

/** The server that carries the office's mail. There is one row; none while no server is set up. */
@Entity
@Table(name = "mail_server")
class MailServer {
    static final int ONLY = 1;

    /** How what is said to it is kept from others. */
    enum Security {
        /** Not at all; for a server on this machine. */
        NONE,
        /** It begins in the open and is enciphered before anything is told; refused where the server cannot. */
        STARTTLS,
        TLS;

        String word() {
            return name().toLowerCase(java.util.Locale.ROOT);
        }
    }

    @Id
    private int id = ONLY;
    private String host = "";
    private int port;
    @Enumerated(EnumType.STRING)
    private Security security = Security.STARTTLS;
    private String account = "";
    /** Enciphered; an empty string for none. */
    private String secret = "";
    private String sender = "";
    @Version
    private long version;

    void choose(String newHost, int newPort, Security newSecurity, String newAccount, String newSecret, String newSender) {
        host = newHost;
        port = newPort;
        security = newSecurity;
        account = newAccount;
        secret = newSecret;
        sender = newSender;
    }

    String host() {
        return host;
    }

    int port() {
        return port;
    }

    Security security() {
        return security;
    }

    String account() {
        return account;
    }

    String secret() {
        return secret;
    }

    String sender() {
        return sender;
    }

    long version() {
        return version;
    }
}
