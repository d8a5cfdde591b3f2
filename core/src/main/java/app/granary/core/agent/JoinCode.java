package app.granary.core.agent;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/**
 * What a technician types on a computer so that it joins this office and no other: a secret the office knows it by, and the beginning of
 * the digest of the office's certificate, by which the computer knows the office. Both as letters and digits that are not mistaken for each
 * other (the 32 of Crockford's base 32, https://www.crockford.com/base32.html), in groups of four, with a check digit at the end.
 *
 * <p>Arithmetic (docs/decisions/024): the secret has 50 bits, and twenty may be tried in a quarter of an hour; 80 bits of SHA-256 have to
 * be met by whoever wants to be taken for the office.
 *
 * @param secret      {@link #SECRET} characters
 * @param fingerprint {@link #FINGERPRINT} characters: the first 80 bits of the SHA-256 of the certificate (RFC 5280, DER)
 */
public record JoinCode(String secret, String fingerprint) {
    public static final int SECRET = 10;
    public static final int FINGERPRINT = 16;
    private static final String DIGITS = "0123456789ABCDEFGHJKMNPQRSTVWXYZ";
    /** Of the check digit: a prime above 32, and five more signs (the same source). */
    private static final int PRIME = 37;
    private static final String CHECKS = DIGITS + "*~$=U";
    private static final int GROUP = 4;

    public JoinCode {
        if (!is(secret, SECRET) || !is(fingerprint, FINGERPRINT)) {
            throw new IllegalArgumentException("not a code: " + secret.length() + " and " + fingerprint.length());
        }
    }

    private static boolean is(String text, int length) {
        return text.length() == length && text.chars().allMatch(c -> DIGITS.indexOf(c) >= 0);
    }

    /**
     * @param random at least 7 bytes nobody can guess
     * @param digest SHA-256 of the certificate
     */
    public static JoinCode of(byte[] random, byte[] digest) {
        return new JoinCode(encoded(random, SECRET), encoded(digest, FINGERPRINT));
    }

    /** The first five bits of the bytes, then the next five, and so on. */
    static String encoded(byte[] bytes, int characters) {
        StringBuilder out = new StringBuilder();
        for (int i = 0; i < characters; i++) {
            int value = 0;
            for (int bit = 5 * i; bit < 5 * i + 5; bit++) {
                value = value << 1 | bytes[bit / 8] >> 7 - bit % 8 & 1;
            }
            out.append(DIGITS.charAt(value));
        }
        return out.toString();
    }

    /** As typed: case, hyphens and spaces do not count, O is 0, I and L are 1; empty when it is none, or was mistyped. */
    public static Optional<JoinCode> parse(String typed) {
        String text = typed.toUpperCase(Locale.ROOT).replaceAll("[-\\s]", "").replace('O', '0').replace('I', '1').replace('L', '1');
        if (text.length() != SECRET + FINGERPRINT + 1) {
            return Optional.empty();
        }
        String digits = text.substring(0, SECRET + FINGERPRINT);
        if (!is(digits, SECRET + FINGERPRINT) || check(digits) != text.charAt(text.length() - 1)) {
            return Optional.empty();
        }
        return Optional.of(new JoinCode(digits.substring(0, SECRET), digits.substring(SECRET)));
    }

    /** Whether a server with a certificate of that digest is the office the code is of. */
    public boolean meets(byte[] digest) {
        return encoded(digest, FINGERPRINT).equals(fingerprint);
    }

    private static char check(String digits) {
        int rest = 0;
        for (char each : digits.toCharArray()) {
            rest = (rest * 32 + DIGITS.indexOf(each)) % PRIME;
        }
        return CHECKS.charAt(rest);
    }

    /** As it is shown and typed. */
    public String text() {
        String all = secret + fingerprint + check(secret + fingerprint);
        return String.join("-", Arrays.asList(all.split("(?<=\\G.{" + GROUP + "})")));
    }

    /** Never the secret: codes stand in no log. */
    @Override
    public String toString() {
        return "JoinCode of the office " + fingerprint;
    }
}
