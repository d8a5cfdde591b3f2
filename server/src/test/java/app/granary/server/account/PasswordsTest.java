package app.granary.server.account;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class PasswordsTest {
    /**
     * Those refused stand in the list of common passwords that zxcvbn ships, or are a pattern of one piece; NIST SP 800-63B names these
     * kinds.
     */
    @Test
    void whatIsTriedFirstWillNotDo() {
        for (String first : new String[] {"1234567890", "qwertyuiop", "administrator", "aaaaaaaaaaaa", "abcdefghijklm", "christopher",
            "annabellefrost", "0987654321"}) {
            assertTrue(Passwords.problem("annabellefrost", first).orElse("").contains("tried first"), first);
        }
        for (String fit : new String[] {"four plain words here", "survey-the-tarn", "a few plain words", "kurz aber länger",
            "日本語のパスワードです"}) {
            assertEquals(Optional.empty(), Passwords.problem("ada", fit), fit);
        }
        assertTrue(Passwords.problem("ada", "short").orElse("").contains("10 to 72"));
        assertTrue(Passwords.problem("ada", "x".repeat(30) + "ß".repeat(30)).orElse("").contains("10 to 72"), "BCrypt would cut it");
    }

    /** Unicode Technical Standard 39, "Confusable detection": Cyrillic, Greek and digits that look like Latin letters. */
    @Test
    void namesThatLookAlikeAreOne() {
        Map<String, String> alike = Map.of("ada", "аdа", "NELL", "nell", "paul", "pаuI", "idris",
            "İDRİS".toLowerCase(java.util.Locale.ROOT).replace("\u0307", ""), "bo.b", "BO.B");
        alike.forEach((one, other) -> assertTrue(Names.alike(one, other), one + " " + other));
        assertTrue(!Names.alike("ada", "ida"));
        for (String no : new String[] {"granary", "Grаnary", "a", "", "../x", "two words", "x\u0000y", "-dash", "a".repeat(61)}) {
            assertTrue(!Names.fit(no), no);
        }
        assertTrue(Names.fit("Zoë.van-Dijk") && Names.fit("李小龍"));
    }
}
