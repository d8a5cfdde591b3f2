package app.granary.engine.shell;

import static org.junit.jupiter.api.Assertions.assertEquals;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.proof.ProofLevel;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ShellNotesTest {
    private static final ShellNote NOTE = new ShellNote(Instant.parse("2026-11-27T20:14:00Z"), "ada", ShellNote.Did.CAPTURE, "TRIPOD-1",
        new DiskIdentity("Aldine \"N1\"", "7K-0198", 512_110_190_592L), ProofLevel.READABLE, true, 71_000_000_000L, 1262.5,
        "before the update");

    @TempDir
    Path folder;

    @Test
    void whatWasAddedIsReadAndWhatIsNoNoteIsPassedOver() throws IOException {
        ShellNotes.add(folder, NOTE);
        Path file = folder.resolve(ShellNotes.FILE);
        String line = Files.readString(file).strip();
        StringBuilder all = new StringBuilder();
        for (String wrong : List.of("", "{", "[]", "null", line.replace("capture", "format"), line.replace("readable", "booted"),
            line.replace("\"diskBytes\":5", "\"diskBytes\":-5"), line.replace("TRIPOD-1", "../TRIPOD"), line.replace("2026-11-27", "today"),
            line.replace("true", "\"yes\""), line.replace("1262.5", "-1"), line.replace("\"ada\"", "\"" + "a".repeat(9_000) + "\""))) {
            all.append(wrong).append('\n');
        }
        all.append(line.replace("\"ada\"", "\"b\\u0007ob\"").replace("before the update", "x".repeat(600))).append('\n').append(line, 0,
            40);
        Files.writeString(file, Files.readString(file) + all);
        List<ShellNote> read = ShellNotes.read(Files.readAllBytes(file));
        assertEquals(NOTE, read.get(0));
        assertEquals(2, read.size(), read.toString());
        assertEquals("b ob", read.get(1).by());
        assertEquals(500, read.get(1).comment().length());
        assertEquals(List.of(), ShellNotes.read(new byte[] {(byte) 0xff, 10, (byte) 0xfe, 0}));
        assertEquals(line, ShellNotes.line(NOTE), "added as it is told");
    }
}
