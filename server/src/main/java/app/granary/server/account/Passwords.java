package app.granary.server.account;

import com.nulabinc.zxcvbn.Strength;
import com.nulabinc.zxcvbn.Zxcvbn;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;

/**
 * Which passwords will do (NIST SP 800-63B, section 3.1.1.2: length, no rules of composition, a list of those that are tried first, and
 * nothing that names the service or the person).
 */
final class Passwords {
    static final int SHORTEST = 10;
    /** BCrypt takes no more. */
    static final int MOST_BYTES = 72;
    private static final Zxcvbn GUESSES = new Zxcvbn();

    private Passwords() {
    }

    /** @return why it will not do; empty when it will */
    static Optional<String> problem(String name, String password) {
        if (password.codePointCount(0, password.length()) < SHORTEST || password.getBytes(StandardCharsets.UTF_8).length > MOST_BYTES) {
            return Optional.of("Choose a password of " + SHORTEST + " to " + MOST_BYTES + " characters; a few words will do.");
        }
        Strength strength = GUESSES.measure(password, List.of(name, "granary"));
        boolean tried = strength.getSequence().size() == 1 && !strength.getSequence().get(0).pattern.value().equals("bruteforce");
        return tried ? Optional.of("That password is one of those that are tried first. Choose another; a few words will do.")
            : Optional.empty();
    }
}
