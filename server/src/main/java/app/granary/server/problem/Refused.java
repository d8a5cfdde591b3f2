package app.granary.server.problem;

import java.io.IOException;
import org.springframework.http.HttpStatus;

/** A request that is refused, with its problem's stable type, the field it concerns (or an empty string) and a sentence. */
public final class Refused extends RuntimeException {
    private static final long serialVersionUID = 1L;
    private final HttpStatus status;
    private final String type;
    private final String field;

    public Refused(HttpStatus status, String type, String field, String sentence) {
        super(sentence);
        this.status = status;
        this.type = type;
        this.field = field;
    }

    /** Nothing by that identity. */
    public static Refused notFound(String what) {
        return new Refused(HttpStatus.NOT_FOUND, "not-found", "",
            "There is no such " + what + ". It may have been removed; go back to the list.");
    }

    /** What a parser of the rules refused, at the field it was typed into. */
    public static Refused badChoice(String field, IOException why) {
        return new Refused(HttpStatus.BAD_REQUEST, "bad-choice", field, String.valueOf(why.getMessage()));
    }

    public HttpStatus status() {
        return status;
    }

    String type() {
        return type;
    }

    String field() {
        return field;
    }
}
