package app.granary.server.mail;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import java.time.Instant;

/** One mail, sent or not. */
@Entity
class Mail {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    private Long id;
    private Instant at;
    private String toAddresses;
    private String subject;
    @Column(name = "body")
    private String text;
    private boolean sent;
    private String trouble = "";

    protected Mail() {
    }

    Mail(Instant at, String toAddresses, String subject, String text) {
        this.at = at;
        this.toAddresses = toAddresses;
        this.subject = subject;
        this.text = text;
    }

    void went() {
        sent = true;
        trouble = "";
    }

    void failed(String why) {
        sent = false;
        trouble = why.length() > 1000 ? why.substring(0, 999) + "…" : why;
    }

    Long id() {
        return id;
    }

    Instant at() {
        return at;
    }

    String toAddresses() {
        return toAddresses;
    }

    String subject() {
        return subject;
    }

    String text() {
        return text;
    }

    boolean sent() {
        return sent;
    }

    String trouble() {
        return trouble;
    }
}
