package app.granary.server.agent;

import app.granary.engine.bag.Digests;
import app.granary.engine.progress.Rest;
import app.granary.server.home.GranarySettings;
import app.granary.server.home.Private;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.SecureRandom;
import java.security.cert.Certificate;
import java.util.HexFormat;
import java.util.List;
import java.util.concurrent.TimeUnit;

/**
 * The office's own certificate, by which computers that join know it: made on first use with Java's own {@code keytool}, kept beside the
 * database for this account alone. Nobody else has signed it; a code carries the beginning of its digest instead.
 */
final class OfficeCertificate {
    private static final String ALIAS = "office";
    private static final int SECONDS = 60;
    private static final int SECRET_BYTES = 24;

    private final KeyStore keys;
    private final String secret;
    private final Certificate certificate;

    private OfficeCertificate(Path store, String secret) throws IOException {
        this.secret = secret;
        try (InputStream in = Files.newInputStream(store)) {
            this.keys = KeyStore.getInstance("PKCS12");
            keys.load(in, secret.toCharArray());
            this.certificate = keys.getCertificate(ALIAS);
        } catch (GeneralSecurityException unreadable) {
            throw new IOException("the office's certificate in " + store + " cannot be read: " + unreadable.getMessage(), unreadable);
        }
    }

    /**
     * Opening the file takes a tenth of a second by design of its format: once is enough.
     *
     * @throws IOException when it cannot be made, read or kept
     */
    static OfficeCertificate of(GranarySettings settings) throws IOException {
        Path folder = Files.createDirectories(settings.home().resolve("agents"));
        Path store = folder.resolve("office.p12");
        Path word = folder.resolve("office.word");
        if (!Files.exists(store)) {
            make(store, word);
        }
        return new OfficeCertificate(store, Files.readString(word).strip());
    }

    private static void make(Path store, Path word) throws IOException {
        byte[] random = new byte[SECRET_BYTES];
        new SecureRandom().nextBytes(random);
        String secret = HexFormat.of().formatHex(random);
        Path partial = store.resolveSibling("office.partial");
        Files.deleteIfExists(partial);
        ProcessBuilder tool = new ProcessBuilder(List.of(Path.of(System.getProperty("java.home"), "bin", "keytool").toString(),
            "-genkeypair",
            "-alias", ALIAS, "-keyalg", "EC", "-groupname", "secp256r1", "-sigalg", "SHA256withECDSA", "-validity", "7300", "-dname",
            "CN=Granary", "-storetype", "PKCS12", "-keystore", partial.toString(), "-storepass:env", "GRANARY_WORD"));
        tool.environment().put("GRANARY_WORD", secret);
        Process made = tool.redirectErrorStream(true).start();
        String said = new String(made.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        try {
            if (!made.waitFor(SECONDS, TimeUnit.SECONDS) || made.exitValue() != 0) {
                throw new IOException("keytool made no certificate: " + said.strip());
            }
        } catch (InterruptedException stopped) {
            throw Rest.interrupted();
        }
        Files.deleteIfExists(word);
        Files.writeString(Files.createFile(word, Private.file()), secret + "\n");
        Files.setPosixFilePermissions(partial, java.nio.file.attribute.PosixFilePermissions.fromString("rw-------"));
        Files.move(partial, store, java.nio.file.StandardCopyOption.ATOMIC_MOVE);
    }

    /** With its private key, which {@link #secret} opens. */
    KeyStore keys() {
        return keys;
    }

    String secret() {
        return secret;
    }

    /** SHA-256 of the certificate as it is sent (RFC 5280, DER). */
    byte[] digest() {
        try {
            return Digests.sha256().digest(certificate.getEncoded());
        } catch (GeneralSecurityException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    /** What trusts this certificate and no other. */
    KeyStore trusted() throws IOException, GeneralSecurityException {
        KeyStore out = KeyStore.getInstance("PKCS12");
        out.load(null, null);
        out.setCertificateEntry(ALIAS, certificate);
        return out;
    }
}
