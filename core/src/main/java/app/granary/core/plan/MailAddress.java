package app.granary.core.plan;

import java.util.regex.Pattern;

/** What a mail address looks like, as far as a mistyped one can be told: no more is asked of it than that a mail server may take it. */
public final class MailAddress {
    private static final Pattern LIKE = Pattern.compile("[^@\\s,;]+@[^@\\s,;]+\\.[^@\\s,;]+|[^@\\s,;]+@localhost");

    private MailAddress() {
    }

    public static boolean isOne(String text) {
        return LIKE.matcher(text).matches();
    }

    /** What to say of one that is none. */
    public static String refusal(String text) {
        return "\"" + text + "\" is no mail address. Write it like name@office.example.";
    }
}
