package app.granary.core.filesystem;

import static org.junit.jupiter.api.Assertions.assertEquals;

import java.nio.charset.StandardCharsets;
import java.util.Random;
import java.util.zip.CRC32C;
import org.junit.jupiter.api.Test;

class ChecksumsTest {
    private static final byte[] CHECK = "123456789".getBytes(StandardCharsets.US_ASCII);

    /**
     * Check value of CRC-32C: E3069283 (RFC 3720, appendix B.4 gives the polynomial; check value from memory and from the JDK's own class).
     */
    @Test
    void crc32cAgreesWithItsCheckValueAndTheJdk() {
        assertEquals(0xE3069283, ~Crc32c.update(-1, CHECK));
        Random random = new Random(1);
        for (int length = 0; length < 300; length++) {
            byte[] content = new byte[length];
            random.nextBytes(content);
            CRC32C jdk = new CRC32C();
            jdk.update(content);
            assertEquals((int) jdk.getValue(), ~Crc32c.update(-1, content));
        }
    }

    @Test
    void crc32cCanBeTakenUpWhereItWasLeft() {
        int inOne = Crc32c.update(-1, CHECK);
        assertEquals(inOne, Crc32c.update(Crc32c.update(-1, CHECK, 0, 4), CHECK, 4, 9));
    }

    /** Check value of CRC-16 with reflected polynomial 8005 and initial value 0 ("ARC"): BB3D (from memory). */
    @Test
    void crc16AgreesWithItsCheckValue() {
        assertEquals(0xBB3D, Crc16.update(0, CHECK, 0, CHECK.length));
    }
}
