package app.granary.engine.openpgp;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.security.SecureRandom;
import java.util.Date;
import org.bouncycastle.bcpg.HashAlgorithmTags;
import org.bouncycastle.openpgp.PGPEncryptedData;
import org.bouncycastle.openpgp.PGPEncryptedDataGenerator;
import org.bouncycastle.openpgp.PGPEncryptedDataList;
import org.bouncycastle.openpgp.PGPException;
import org.bouncycastle.openpgp.PGPLiteralData;
import org.bouncycastle.openpgp.PGPLiteralDataGenerator;
import org.bouncycastle.openpgp.PGPPBEEncryptedData;
import org.bouncycastle.openpgp.jcajce.JcaPGPObjectFactory;
import org.bouncycastle.openpgp.operator.jcajce.JcaPGPDigestCalculatorProviderBuilder;
import org.bouncycastle.openpgp.operator.jcajce.JcePBEDataDecryptorFactoryBuilder;
import org.bouncycastle.openpgp.operator.jcajce.JcePBEKeyEncryptionMethodGenerator;
import org.bouncycastle.openpgp.operator.jcajce.JcePGPDataEncryptorBuilder;

/**
 * Writes and reads one symmetric OpenPGP message: AES-256, a key of the passphrase by iterated and salted SHA-256, integrity-protected (RFC
 * 9580, sections 3.7.1.3, 5.3 and 5.13.1), its content a literal packet without compression. Streams; memory is a few buffers.
 */
public final class OpenPgp {
    /** Packet pieces of this many bytes; a power of two (RFC 9580, section 4.2.1.4). */
    private static final int PIECE = 1 << 16;
    /**
     * 16 MiB are hashed to make a key of a passphrase (RFC 9580, section 3.7.1.3: (16 + 0) &lt;&lt; (14 + 6)): some tens of milliseconds a
     * part, which whoever tries passphrases pays for each.
     */
    private static final int KEY_ITERATIONS = 0xE0;

    private OpenPgp() {
    }

    /**
     * How many bytes of content a message of at most {@code limit} bytes can surely hold: key, headers and digest, and a length byte or two
     * per piece of both packets.
     */
    public static long contentWithin(long limit) {
        return limit == Long.MAX_VALUE ? limit : Math.max(1, limit - 512 - limit / PIECE * 4);
    }

    /**
     * Begins a message into {@code out}. Closing it ends the message and leaves {@code out} open.
     *
     * @param passphrase not none
     */
    public static OutputStream encrypting(OutputStream out, Passphrase passphrase) throws IOException {
        try {
            PGPEncryptedDataGenerator encrypted = new PGPEncryptedDataGenerator(
                new JcePGPDataEncryptorBuilder(PGPEncryptedData.AES_256).setWithIntegrityPacket(true)
                    .setSecureRandom(new SecureRandom()));
            encrypted.addMethod(new JcePBEKeyEncryptionMethodGenerator(passphrase.text(),
                new JcaPGPDigestCalculatorProviderBuilder().build().get(HashAlgorithmTags.SHA256),
                KEY_ITERATIONS));
            OutputStream inner = encrypted.open(new FilterOutputStream(out) {
                @Override
                public void write(byte[] from, int at, int length) throws IOException {
                    out.write(from, at, length);
                }

                @Override
                public void close() {
                    // the file below belongs to the caller
                }
            }, new byte[PIECE]);
            // no name and no date: the same content gives the same packet
            OutputStream content = new PGPLiteralDataGenerator().open(inner, PGPLiteralData.BINARY, "", new Date(0), new byte[PIECE]);
            return new FilterOutputStream(content) {
                @Override
                public void write(byte[] from, int at, int length) throws IOException {
                    content.write(from, at, length);
                }

                @Override
                public void close() throws IOException {
                    content.close();
                    inner.close();
                }
            };
        } catch (PGPException impossible) {
            throw new IOException("this Java cannot encrypt with AES-256: " + impossible.getMessage(), impossible);
        }
    }

    /**
     * Opens a message and checks the passphrase against its first bytes, before any content is read.
     *
     * @param what the file, for messages
     * @throws app.granary.core.fault.FaultException of kind LOCKED when the passphrase is missing or wrong, or the key in the message's
     *                                               head is damaged, which cannot be told apart; of kind DAMAGED when it is no message of
     *                                               ours
     */
    public static Content decrypting(InputStream in, Passphrase passphrase, String what) throws IOException {
        if (passphrase.isNone()) {
            throw Fault.of(Fault.Kind.LOCKED, what, what + " is encrypted. Enter the passphrase the image was made with.").asException();
        }
        boolean keyed = false;
        try {
            Object first = new JcaPGPObjectFactory(in).nextObject();
            if (first instanceof PGPEncryptedDataList list && list.size() == 1 && list.get(0) instanceof PGPPBEEncryptedData data
                && data.isIntegrityProtected()) {
                keyed = true;
                InputStream clear = data.getDataStream(
                    new JcePBEDataDecryptorFactoryBuilder(new JcaPGPDigestCalculatorProviderBuilder().build()).build(passphrase.text()));
                if (new JcaPGPObjectFactory(clear).nextObject() instanceof PGPLiteralData literal) {
                    return new Content(data, literal.getInputStream());
                }
                throw locked(what);
            }
        } catch (PGPException | IOException | RuntimeException broken) {
            // once the message's head made sense, what follows is nonsense because the key is
            throw broken instanceof FaultException known ? known : keyed ? locked(what) : damaged(what, broken);
        }
        throw damaged(what, null);
    }

    private static IOException locked(String what) {
        return Fault
            .of(Fault.Kind.LOCKED, what,
                "The passphrase does not open " + what + ". Nothing was read further. Try the passphrase the image was made with.")
            .asException();
    }

    private static IOException damaged(String what, Exception broken) {
        return Fault
            .of(Fault.Kind.DAMAGED, what,
                what + " is no OpenPGP message that a passphrase opens" + (broken == null ? "" : " (" + broken.getMessage() + ")") + ".")
            .asException();
    }

    /** What a message holds. Errors of its form come as {@link IOException}. */
    public static final class Content extends InputStream {
        private final PGPEncryptedData data;
        private final InputStream in;

        private Content(PGPEncryptedData data, InputStream in) {
            this.data = data;
            this.in = in;
        }

        @Override
        public int read() throws IOException {
            byte[] one = new byte[1];
            return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
        }

        @Override
        public int read(byte[] into, int at, int length) throws IOException {
            try {
                return in.read(into, at, length);
            } catch (RuntimeException broken) {
                throw new IOException("its OpenPGP packets are broken (" + broken.getMessage() + ")", broken);
            }
        }

        /** Whether the message's own digest matches; to be asked once all content was read. */
        public boolean intact() {
            try {
                return data.verify();
            } catch (PGPException | IOException | RuntimeException broken) {
                return false;
            }
        }
    }
}
