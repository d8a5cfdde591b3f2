package app.granary.engine.release;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.fault.FaultException;
import app.granary.engine.elsewhere.ElsewhereScan;
import app.granary.engine.host.ImageAt;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.engine.host.FolderShelf;
import app.granary.engine.host.Shelf;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class TrashTest {
    @TempDir
    private Path root;
    private Trash trash;

    @BeforeEach
    void someImages() throws IOException {
        trash = new Trash(root);
        for (String file : List.of("A/bagit.txt", "A/data/disk.img.zst.000", "old/one/x.img.gz.aa", "old/one/x.img.gz.ab",
            "old/one/other.img", "B/bagit.txt")) {
            Files.createDirectories(root.resolve(file).getParent());
            Files.writeString(root.resolve(file), file);
        }
    }

    private Map<String, Long> tree() throws IOException {
        Map<String, Long> out = new TreeMap<>();
        try (Stream<Path> files = Files.walk(root)) {
            for (Path file : files.filter(Files::isRegularFile).toList()) {
                out.put(root.relativize(file).toString(), Files.size(file));
            }
        }
        return out;
    }

    @Test
    void whatIsTakenBackIsThereAsBefore() throws IOException {
        Map<String, Long> before = tree();
        byte[] content = Files.readAllBytes(root.resolve("A/data/disk.img.zst.000"));
        trash.put("k1", List.of(root.resolve("A")));
        trash.put("k2", List.of(root.resolve("old/one/x.img.gz.aa"), root.resolve("old/one/x.img.gz.ab")));
        assertFalse(Files.exists(root.resolve("A")));
        assertTrue(Files.exists(root.resolve("old/one/other.img")), "what was not released stays");
        assertTrue(trash.holds("k1") && trash.holds("k2"));
        trash.takeBack("k2");
        trash.takeBack("k1");
        assertEquals(before, tree());
        assertArrayEquals(content, Files.readAllBytes(root.resolve("A/data/disk.img.zst.000")));
    }

    @Test
    void anAttemptThatWasCutOffIsFinishedByTheNext() throws IOException {
        List<Path> parts = List.of(root.resolve("old/one/x.img.gz.aa"), root.resolve("old/one/x.img.gz.ab"));
        trash.put("k", parts.subList(0, 1));
        trash.put("k", parts);
        trash.takeBack("k");
        assertTrue(Files.exists(parts.get(0)) && Files.exists(parts.get(1)));
    }

    @Test
    void refusalsMoveNothing() throws IOException {
        trash.put("k", List.of(root.resolve("A")));
        Files.createDirectories(root.resolve("A"));
        Map<String, Long> before = tree();
        FaultException taken = assertThrows(FaultException.class, () -> trash.takeBack("k"));
        assertTrue(taken.getMessage().contains("Something else lies where it was"), taken.getMessage());
        assertEquals(before, tree());
        assertThrows(FaultException.class, () -> trash.put("k3", List.of(root.resolve("gone"))));
        trash.empty("k");
        trash.empty("k");
        assertThrows(FaultException.class, () -> trash.takeBack("k"));
        assertTrue(Files.exists(root.resolve("B/bagit.txt")));
        assertThrows(IllegalArgumentException.class, () -> trash.empty("../B"));
    }

    /** An image in the trash was taken on as one found there, and went with the trash; small files were put wherever a link led. */
    @Test
    void theTrashHoldsNoImagesToTakeOnAndLinksLeadNowhere() throws IOException {
        trash.put("k", List.of(root.resolve("A")));
        for (String folder : List.of(Trash.FOLDER, Trash.FOLDER + "/k", "old/../" + Trash.FOLDER)) {
            FaultException refused = assertThrows(FaultException.class, () -> ElsewhereScan.in(root, folder, Watch.NONE), folder);
            assertTrue(refused.getMessage().contains("is the trash of that drive"), refused.getMessage());
        }
        Path outside = Files.createDirectories(root.resolveSibling("outside-" + root.getFileName()));
        Files.createSymbolicLink(root.resolve("granary-runbooks"), outside);
        Shelf shelf = new FolderShelf(root, root, image -> List.of());
        InputStream text = new ByteArrayInputStream("text".getBytes(StandardCharsets.UTF_8));
        for (String folder : List.of("granary-runbooks", "granary-runbooks/deep", "../outside-" + root.getFileName())) {
            assertThrows(FaultException.class, () -> shelf.putFile(folder, "a.html", text), folder);
        }
        assertEquals(0, outside.toFile().list().length);
        shelf.putFile("cards/2026", "a.html", text);
        shelf.putFile("", "b.html", text);
        assertTrue(Files.exists(root.resolve("cards/2026/a.html")) && Files.exists(root.resolve("b.html")));
        InputStream damaged = new java.io.SequenceInputStream(new ByteArrayInputStream(new byte[99]), new InputStream() {
            @Override
            public int read() throws java.io.IOException {
                throw new java.io.IOException("damaged");
            }
        });
        assertThrows(java.io.IOException.class, () -> shelf.putFile("fetched", "c", damaged));
        assertEquals(0, root.resolve("fetched").toFile().list().length, "nothing of it is left");
    }

    private static ImageAt at(String folder, String name) {
        return new ImageAt("drive", folder, name, Passphrase.NONE);
    }

    /** An image is moved in one step, with what lies beside it; nothing is written over, and nothing leaves the drive. */
    @Test
    void anImageIsMovedOnItsDrive() throws IOException {
        Files.writeString(root.resolve("A.note"), "beside");
        Shelf shelf = new FolderShelf(root, root, bag -> Files.exists(bag.resolveSibling(bag.getFileName() + ".note"))
            ? List.of(bag.resolveSibling(bag.getFileName() + ".note")) : List.of());
        Map<String, Long> before = tree();
        Path outside = Files.createDirectories(root.resolveSibling("outside-" + root.getFileName()));
        Files.createSymbolicLink(root.resolve("away"), outside);
        for (ImageAt to : List.of(
            at("", "B"), at("../x", "A"), at("away", "A"), at("away/deep", "A"), at("B", "A"), at(Trash.FOLDER,
            "A"))) {
            assertThrows(FaultException.class, () -> shelf.move(at("", "A"), to), to.folder());
        }
        Files.delete(root.resolve("away"));
        assertEquals(before, tree());
        shelf.move(at("", "A"), at("offsite/2026", "A2"));
        assertTrue(Files.exists(root.resolve("offsite/2026/A2/bagit.txt")) && Files.exists(root.resolve("offsite/2026/A2.note")));
        assertTrue(shelf.lies(at("offsite/2026", "A2")) && !shelf.lies(at("", "A")));
        shelf.move(at("offsite/2026", "A2"), at("", "A"));
        assertEquals(before, tree());
    }
}
