package app.granary.core.agent;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.security.MessageDigest;
import java.util.HashSet;
import java.util.Locale;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class JoinCodeTest {
    private static JoinCode code(long seed) throws Exception {
        Random random = new Random(seed);
        byte[] secret = new byte[7];
        random.nextBytes(secret);
        return JoinCode.of(secret, MessageDigest.getInstance("SHA-256").digest(("office " + seed % 3).getBytes()));
    }

    /** The alphabet leaves out I, L, O and U (https://www.crockford.com/base32.html). */
    @Test
    void whatIsShownIsReadAgainHoweverItIsTyped() throws Exception {
        Set<String> seen = new HashSet<>();
        for (long seed = 0; seed < 2000; seed++) {
            JoinCode code = code(seed);
            assertTrue(code.text().matches("([0-9A-HJKMNP-TV-Z]{4}-){6}[0-9A-HJKMNP-TV-Z]{2}[0-9A-HJKMNP-TV-Z*~$=U]"), code.text());
            assertEquals(Optional.of(code), JoinCode.parse(code.text()));
            assertEquals(Optional.of(code),
                JoinCode.parse("  " + code.text().toLowerCase(Locale.ROOT).replace('0', 'o').replace('1', 'l').replace("-", " ")));
            seen.add(code.secret());
        }
        assertEquals(2000, seen.size());
    }

    /** Every digit that is wrong, and every two neighbours that are exchanged, are noticed: that is what the check digit is for. */
    @Test
    void aSlipOfTheFingerIsNoticed() throws Exception {
        String text = code(7).text().replace("-", "");
        for (int i = 0; i < text.length(); i++) {
            for (char other : "0123456789ABCDEFGHJKMNPQRSTVWXYZ".toCharArray()) {
                String wrong = text.substring(0, i) + other + text.substring(i + 1);
                assertEquals(wrong.equals(text), JoinCode.parse(wrong).isPresent(), wrong);
            }
            if (i + 1 < text.length() && text.charAt(i) != text.charAt(i + 1)) {
                String swapped = text.substring(0, i) + text.charAt(i + 1) + text.charAt(i) + text.substring(i + 2);
                assertFalse(JoinCode.parse(swapped).isPresent(), swapped);
            }
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "-", "hello", "0000-0000", "ÄÖÜß-0000-0000-0000-0000-0000-000", "0000-0000-0000-0000-0000-0000-0001"})
    void whatIsNoCodeIsNone(String typed) {
        assertEquals(Optional.empty(), JoinCode.parse(typed));
    }

    @Test
    void onlyTheOfficeItIsOfMeetsIt() throws Exception {
        byte[] own = MessageDigest.getInstance("SHA-256").digest("office 1".getBytes());
        JoinCode code = code(1);
        assertTrue(code.meets(own));
        for (int bit = 0; bit < 80; bit++) {
            byte[] other = own.clone();
            other[bit / 8] ^= (byte) (1 << 7 - bit % 8);
            assertFalse(code.meets(other), "bit " + bit);
        }
        assertFalse(code.toString().contains(code.secret()));
    }
}
