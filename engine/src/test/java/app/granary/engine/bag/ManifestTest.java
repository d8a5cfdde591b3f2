package app.granary.engine.bag;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import app.granary.core.fault.FaultException;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ManifestTest {
    /** FIPS 180-4, example "abc". */
    private static final String ABC = "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad";

    @Test
    void digestsAreSha256InLowerCase() {
        assertEquals(ABC, Digests.of("abc".getBytes(StandardCharsets.US_ASCII)));
        java.security.MessageDigest pieces = Digests.sha256();
        byte[] long_ = new byte[100_003];
        Digests.update(pieces, long_, 1, 100_001);
        assertEquals(Digests.of(new byte[100_001]), Digests.hex(pieces.digest()));
    }

    @Test
    void whatIsWrittenIsReadBackInOrder() throws IOException {
        Manifest manifest = new Manifest(new java.util.TreeMap<>(Map.of("data/b", ABC, "data/a", ABC)));
        assertEquals(ABC + "  data/a\n" + ABC + "  data/b\n", manifest.text());
        assertEquals(manifest, Manifest.parse(manifest.text(), "m"));
    }

    @ParameterizedTest
    @ValueSource(strings = {
        "", "\n", "X  data/a\n", ABC + " data/a\n", ABC + "  data/a", ABC + "  ../a\n", ABC + "  data/../../a\n", ABC + "  /etc/passwd\n",
        ABC + "   data/a\n",
        ABC + "  data/a\n\n", ABC + "  data/a\r\n", "BA" + "7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad  data/a\n",
        ABC + "  data/a\n" + ABC + "  data/a\n",
    })
    void anythingElseIsDamage(String text) {
        assertThrows(FaultException.class, () -> Manifest.parse(text, "m"));
    }
}
