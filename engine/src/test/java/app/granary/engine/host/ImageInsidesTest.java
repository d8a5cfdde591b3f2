package app.granary.engine.host;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNotEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.codec.Codec;
import app.granary.engine.files.FileFacts;
import app.granary.engine.files.FileLine;
import app.granary.engine.files.FilePlace;
import app.granary.engine.files.FolderPage;
import app.granary.engine.files.FolderSearch;
import app.granary.engine.media.Tools;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Images are made of disks whose files mkfs.ext4 put there; what is fetched is held against those by sha256sum and cmp. */
class ImageInsidesTest {
    private static final ImageAt PLAIN = ImageAt.of("drive", "plain");

    @TempDir
    Path folder;
    private Insides insides;

    @BeforeEach
    void begin() {
        insides = new ImageInsides(image -> folder.resolve(image.name()), image -> {
            throw new IllegalStateException("Granary's own alone");
        });
        Tools.run(folder, "mkdir -p in/many in/deep/er; seq 900000 > in/long; seq 9 > in/short; : > in/deep/er/Plan-A.dxf; "
            + "seq 5 > in/deep/plan-b.dxf; (cd in/many; seq -f 'file-%g' 700 | xargs touch); touch -d 2020-02-03 in/short");
        disk();
    }

    private void disk() {
        Tools.run(folder, "rm -f ext.img; mkfs.ext4 -q -F -U clear -E hash_seed=6e5b9d2e-0d5a-4d2c-9a5b-000000000001 -d in ext.img 64M");
    }

    private ImageAt captured(String name, Passphrase passphrase) throws IOException {
        try (RawSource source = RawSource.open(folder.resolve("ext.img"))) {
            ImageWork.capture(source, new DiskIdentity("model", "serial", source.sizeBytes()), new Storage(Codec.ZSTD, 3,
                OptionalLong.empty(), SurveyChoice.USED, "", passphrase), name, folder, Clock.systemUTC(), Watch.NONE);
        }
        return new ImageAt("drive", name, passphrase);
    }

    private static List<String> names(List<FileLine> lines) {
        return lines.stream().map(FileLine::name).toList();
    }

    @Test
    void foldersAreShownPageByPageInOrder() throws Exception {
        captured("plain", Passphrase.NONE);
        FilePlace top = FilePlace.parse("0:/");
        assertEquals("ext4", insides.volumes(PLAIN).get(0).fileSystem());
        assertEquals(List.of("deep", "lost+found", "many", "long", "short"), names(insides.list(PLAIN, top, FolderPage.Asked.ALL).lines()));
        assertEquals(List.of("deep", "lost+found", "many", "short", "long"), names(insides.list(PLAIN, top, new FolderPage.Asked("",
            FolderPage.Sort.MODIFIED, false, 0, 9, false)).lines().stream().filter(each -> !each.name().isEmpty()).toList()));
        FolderPage page = insides.list(PLAIN, FilePlace.parse("0:/many"),
            new FolderPage.Asked("LE-69", FolderPage.Sort.NAME, true, 2, 3, false));
        assertEquals(700, page.total());
        assertEquals(11, page.matching());
        assertEquals(List.of("file-697", "file-696", "file-695"), names(page.lines()));
        assertEquals(List.of(), insides.list(PLAIN, top, new FolderPage.Asked("", FolderPage.Sort.BYTES, false, 50, 3, false)).lines());
        FolderSearch found = insides.search(PLAIN, top, "PLAN", 60_000);
        assertEquals(List.of("deep/plan-b.dxf", "deep/er/Plan-A.dxf"), found.lines().stream().map(each -> each.folder() + "/" + each.name())
            .toList());
        assertTrue(found.whole());
        assertEquals(5, found.folders());
        FolderSearch cut = insides.search(PLAIN, top, "file", 60_000);
        assertEquals(500, cut.lines().size());
        assertFalse(cut.whole());
        assertFalse(insides.search(PLAIN, top, "none", -1).whole(), "no time was left");
        for (String wrong : new String[] {"0:/none", "3:/", "0:/short/x", "0:/../deep"}) {
            assertThrows(FaultException.class, () -> insides.list(PLAIN, FilePlace.parse(wrong), FolderPage.Asked.ALL), wrong);
        }
    }

    @Test
    void filesComeOutPieceByPieceForManyAtOnce() throws Exception {
        captured("plain", Passphrase.NONE);
        String before = Tools.run(folder, "cd plain && find . -type f | sort | xargs sha256sum");
        FilePlace file = FilePlace.parse("0:/long");
        byte[] expected = Files.readAllBytes(folder.resolve("in/long"));
        assertEquals(Tools.run(folder, "sha256sum < in/long").substring(0, 64), insides.digest(PLAIN, file, Watch.NONE));
        ExecutorService readers = Executors.newFixedThreadPool(4);
        List<Future<byte[]>> read = readers.invokeAll(java.util.Collections.nCopies(4, (Callable<byte[]>) () -> {
            ByteArrayOutputStream out = new ByteArrayOutputStream();
            for (byte[] piece = insides.bytes(PLAIN, file, 0, 700_001); piece.length > 0; piece = insides.bytes(PLAIN, file, out.size(),
                700_001)) {
                out.write(piece);
            }
            return out.toByteArray();
        }));
        readers.shutdown();
        for (Future<byte[]> each : read) {
            assertArrayEquals(expected, each.get());
        }
        assertEquals(Insides.MOST_BYTES, insides.bytes(PLAIN, file, 0, Integer.MAX_VALUE).length);
        assertThrows(IOException.class, () -> insides.bytes(PLAIN, file, expected.length + 5L, 9), "past its end");
        assertEquals(before, Tools.run(folder, "cd plain && find . -type f | sort | xargs sha256sum"));
    }

    /** By the chunks alone where they are the same, though another file has changed. */
    @Test
    void theSameFileIsKnownInAnotherImage() throws Exception {
        captured("plain", Passphrase.NONE);
        Tools.run(folder, "seq 5 8 > in/short; touch -d 2020-02-03 in/short");
        disk();
        ImageAt later = captured("later", Passphrase.NONE);
        FileFacts one = insides.file(PLAIN, FilePlace.parse("0:/long"));
        FileFacts two = insides.file(later, FilePlace.parse("0:/long"));
        assertTrue(one.chunks() >= 6 && one.chunks() < one.imageChunks() && one.storedBytes() > 0, one.toString());
        assertEquals(one.stamp(), two.stamp());
        assertNotEquals(insides.file(PLAIN, FilePlace.parse("0:/short")).stamp(), insides.file(later, FilePlace.parse("0:/short")).stamp());
        List<String> many = new ArrayList<>();
        for (int i = 0; i < 6; i++) { // more than stay open
            many.add(insides.file(captured("image-" + i, Passphrase.NONE), FilePlace.parse("0:/long")).stamp());
        }
        assertEquals(java.util.Collections.nCopies(6, one.stamp()), many);
        assertEquals(one, insides.file(PLAIN, FilePlace.parse("0:/long")), "opened anew");
    }

    @Test
    void damageIsToldByTheFilesOwnBytes() throws Exception {
        captured("plain", Passphrase.NONE);
        Path part =
            Files.list(folder.resolve("plain/data")).max(java.util.Comparator.comparing(each -> each.toFile().length())).orElseThrow();
        FilePlace file = FilePlace.parse("0:/long");
        insides.bytes(PLAIN, file, 0, 9);
        try (RandomAccessFile raw = new RandomAccessFile(part.toFile(), "rw")) {
            raw.seek(raw.length() / 2);
            raw.write(new byte[2000]);
        }
        insides = new ImageInsides(image -> folder.resolve(image.name()), image -> {
            throw new IllegalStateException("Granary's own alone");
        });
        FaultException told = assertThrows(FaultException.class, () -> insides.digest(PLAIN, file, Watch.NONE));
        assertTrue(told.fault().sentence().matches("\"long\" cannot be read: among its bytes from \\d+ to \\d+ some are damaged\\. "
            + "An older image may have it sound\\."), told.fault().sentence());
        assertEquals("1\n2\n3\n4\n5\n6\n7\n8\n9\n", new String(insides.bytes(PLAIN, FilePlace.parse("0:/short"), 0, 99)),
            "the rest is read");
    }

    @Test
    void anEncryptedImageOpensToItsPassphraseAlone() throws Exception {
        ImageAt secret = captured("secret", Passphrase.of("tarn and fell".toCharArray()));
        assertEquals(1, insides.volumes(secret).size());
        FilePlace top = FilePlace.parse("0:/");
        assertEquals(5, insides.list(secret, top, FolderPage.Asked.ALL).total());
        for (Passphrase wrong : List.of(Passphrase.NONE, Passphrase.of("another".toCharArray()))) {
            FaultException refused = assertThrows(FaultException.class,
                () -> insides.list(new ImageAt("drive", "secret", wrong), top, FolderPage.Asked.ALL), "open for one, not for all");
            assertEquals(Fault.Kind.LOCKED, refused.fault().kind(), refused.fault().sentence());
        }
    }
}
