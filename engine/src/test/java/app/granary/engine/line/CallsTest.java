package app.granary.engine.line;

import static org.junit.jupiter.api.Assertions.assertEquals;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;

/** The protocol's document names the calls there are; {@code -Dgranary.architecture.write=true} writes them anew. */
class CallsTest {
    private static final Path DOCUMENT = Path.of("../docs/agent.md");
    private static final String BEGIN = "<!-- calls -->\n";
    private static final String END = "<!-- end of calls -->";

    @Test
    void theDocumentListsThem() throws IOException {
        String text = Files.readString(DOCUMENT);
        int from = text.indexOf(BEGIN) + BEGIN.length();
        int to = text.indexOf(END);
        if (Boolean.getBoolean("granary.architecture.write")) {
            Files.writeString(DOCUMENT, text.substring(0, from) + Calls.listed() + text.substring(to));
        } else {
            assertEquals(Calls.listed(), text.substring(from, to));
        }
    }
}
