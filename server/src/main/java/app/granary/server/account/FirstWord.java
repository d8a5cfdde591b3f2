package app.granary.server.account;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.util.Base64;
import org.springframework.stereotype.Component;

/**
 * Printed as part of the address at each start while there is no account: who can read that may make the first one, and no page or
 * neighbour else.
 */
@Component
class FirstWord {
    private static final int BYTES = 12;
    private final String word;

    FirstWord() {
        byte[] bytes = new byte[BYTES];
        new SecureRandom().nextBytes(bytes);
        word = Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
    }

    String word() {
        return word;
    }

    boolean is(String given) {
        return MessageDigest.isEqual(word.getBytes(StandardCharsets.UTF_8), given.strip().getBytes(StandardCharsets.UTF_8));
    }
}
