package app.granary.core.image;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import app.granary.core.fault.FaultException;
import java.io.IOException;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class FolderNameTest {
    @ParameterizedTest
    @ValueSource(strings = {"", "DATUM", "Halden/S2 2026/system", "b\u00fcro/pl\u00e4ne", "a.b/c-d_e", "/DATUM/"})
    void whatEveryDriveTakesIsTaken(String text) throws IOException {
        assertEquals(text.replaceAll("^/|/$", ""), FolderName.parse(text).text());
    }

    @ParameterizedTest
    @ValueSource(strings = {"..", "a/../b", "a//b", ".hidden", "a.", "a /b", "con", "NUL.txt", "a.partial", "b/A.PARTIAL", "com1", "a:b",
        "a\\b", "a\0b", "a\nb", "a*",
        "x?",
        "1/2/3/4/5/6/7/8/9", "granary-trash/./x"})
    void anythingElseIsRefused(String text) {
        assertThrows(FaultException.class, () -> FolderName.parse(text));
    }
}
