package app.granary.server.mail;

import app.granary.server.home.GranarySettings;
import app.granary.server.home.Private;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.Arrays;
import java.util.Base64;
import java.util.Optional;
import javax.crypto.Cipher;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.stereotype.Component;

/**
 * Enciphers the password of the mail server, by a key in a file of its own beside the database that only Granary's account may read: a copy
 * of the database alone does not tell it. AES with 256 bits in GCM (NIST SP 800-38D), a nonce of 96 bits before each text.
 */
@Component
class MailKey {
    private static final String FILE = "mail.key";
    private static final int KEY_BYTES = 32;
    private static final int NONCE_BYTES = 12;
    private static final int TAG_BITS = 128;

    private final Path file;
    private final SecureRandom random = new SecureRandom();

    MailKey(GranarySettings settings) {
        this.file = settings.home().resolve("db").resolve(FILE);
    }

    /** Made on first use. */
    private byte[] key() throws IOException {
        if (!Files.exists(file)) {
            byte[] fresh = new byte[KEY_BYTES];
            random.nextBytes(fresh);
            Files.createDirectories(file.getParent());
            Path partial = Files.createTempFile(file.getParent(), FILE, ".partial", Private.file());
            Files.write(partial, fresh);
            try {
                Files.move(partial, file);
            } catch (FileAlreadyExistsException other) {
                Files.delete(partial);
            }
        }
        return Files.readAllBytes(file);
    }

    /** @param plain an empty one stays empty */
    String enciphered(String plain) {
        if (plain.isEmpty()) {
            return "";
        }
        try {
            byte[] nonce = new byte[NONCE_BYTES];
            random.nextBytes(nonce);
            byte[] body = cipher(Cipher.ENCRYPT_MODE, nonce).doFinal(plain.getBytes(StandardCharsets.UTF_8));
            byte[] all = Arrays.copyOf(nonce, NONCE_BYTES + body.length);
            System.arraycopy(body, 0, all, NONCE_BYTES, body.length);
            return Base64.getEncoder().encodeToString(all);
        } catch (IOException | GeneralSecurityException failed) {
            throw new IllegalStateException("the key of the mail password at " + file + " cannot be used", failed);
        }
    }

    /** Empty when it was enciphered by another key, as after a database was brought back without its key. */
    Optional<String> plain(String enciphered) {
        if (enciphered.isEmpty()) {
            return Optional.of("");
        }
        try {
            byte[] all = Base64.getDecoder().decode(enciphered);
            return Optional.of(new String(cipher(Cipher.DECRYPT_MODE, Arrays.copyOf(all, NONCE_BYTES)).doFinal(all, NONCE_BYTES,
                all.length - NONCE_BYTES), StandardCharsets.UTF_8));
        } catch (IOException | GeneralSecurityException | IllegalArgumentException another) {
            return Optional.empty();
        }
    }

    private Cipher cipher(int mode, byte[] nonce) throws IOException, GeneralSecurityException {
        Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
        cipher.init(mode, new SecretKeySpec(key(), "AES"), new GCMParameterSpec(TAG_BITS, nonce));
        return cipher;
    }
}
