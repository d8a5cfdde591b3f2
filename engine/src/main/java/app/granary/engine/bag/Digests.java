package app.granary.engine.bag;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/** SHA-256 (FIPS 180-4) in lower-case hexadecimal, as manifests carry it. */
public final class Digests {
    private Digests() {
    }

    public static MessageDigest sha256() {
        try {
            return MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException impossible) {
            throw new IllegalStateException("every Java platform has SHA-256", impossible);
        }
    }

    public static String hex(byte[] digest) {
        return HexFormat.of().formatHex(digest);
    }

    public static String of(byte[] content) {
        return hex(sha256().digest(content));
    }

    public static String of(Path file) throws IOException {
        MessageDigest digest = sha256();
        byte[] buffer = new byte[128 * 1024];
        try (InputStream in = Files.newInputStream(file)) {
            for (int count = in.read(buffer); count >= 0; count = in.read(buffer)) {
                digest.update(buffer, 0, count);
            }
        }
        return hex(digest.digest());
    }
}
