package app.granary.server.inside;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.granary.engine.files.FileFacts;
import app.granary.engine.files.FileLine;
import app.granary.engine.files.FilePlace;
import app.granary.engine.files.FolderPage;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.Insides;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import org.junit.jupiter.api.Test;

class InsideFilesTest {
    private static final FilePlace TOP = new FilePlace(1, List.of("top"));
    private final Insides insides = mock(Insides.class);

    private static FileLine folder(String name, long id) {
        return new FileLine("", name, "folder", 0, Instant.EPOCH, "", id);
    }

    private void everyFolderHolds(FileLine... lines) throws IOException {
        when(insides.file(any(), any())).thenReturn(new FileFacts(folder("top", 1), 0, 0, 0, 0, ""));
        when(insides.list(any(), any(), any())).thenReturn(new FolderPage(lines.length, OptionalLong.of(0), lines.length, List.of(lines)));
    }

    private InsideFiles.Zipped zipped(List<String> names) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        InsideFiles.Zipped zipped = new InsideFiles(insides, ImageAt.of("drive", "image")).zip(TOP, out);
        try (ZipInputStream in = new ZipInputStream(new ByteArrayInputStream(out.toByteArray()))) {
            for (ZipEntry entry = in.getNextEntry(); entry != null; entry = in.getNextEntry()) {
                names.add(entry.getName());
            }
        }
        return zipped;
    }

    /** Two ways in each folder double the folders at each step down. */
    @Test
    void foldersThatLoopAreFetchedOnce() throws IOException {
        everyFolderHolds(folder("a", 2), folder("b", 3), folder("again", 1));
        List<String> names = new ArrayList<>();
        InsideFiles.Zipped zipped = zipped(names);
        assertEquals(List.of("a/", "b/", "not-fetched.txt"), names);
        assertEquals(7, zipped.passedOver().stream().filter(each -> each.endsWith("fetched already")).count());
    }

    /** 4 000 levels of names of 255 characters; a ZIP has 65 535 bytes for a path. */
    @Test
    void pathsTooLongForZipAreTold() throws IOException {
        String name = "\u20ac".repeat(255);
        when(insides.file(any(), any())).thenReturn(new FileFacts(folder("top", 1), 0, 0, 0, 0, ""));
        when(insides.list(any(), any(), any())).thenAnswer(asked -> new FolderPage(1, OptionalLong.of(0), 1,
            List.of(folder(name, 1 + ((FilePlace) asked.getArgument(1)).names().size()))));
        InsideFiles.Zipped zipped = zipped(new ArrayList<>());
        assertEquals(List.of(name + " and what is in it: its path is too long for a ZIP"), zipped.passedOver());
    }
}
