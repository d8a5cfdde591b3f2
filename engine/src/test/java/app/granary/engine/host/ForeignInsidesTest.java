package app.granary.engine.host;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.fault.FaultException;
import app.granary.engine.elsewhere.ElsewhereDisk;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.elsewhere.ElsewhereScan;
import app.granary.engine.files.FilePlace;
import app.granary.engine.files.FolderPage;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Images that other tools made, looked into: their files are what sha256sum says they were before mkfs.ext4 and mtools put them there.
 * Made by dd, split, gzip, zstd, qemu-img and sfdisk.
 */
@Tag("large")
class ForeignInsidesTest {
    @TempDir
    static Path folder;

    @BeforeAll
    static void aDiskOfTwoPartitions() {
        Tools.run(folder, """
            mkdir -p root/etc drive/{raw,packed,set,virtual} scratch
            head -c 3000000 /dev/urandom > root/etc/photo; echo hello > root/note.txt; sha256sum < root/etc/photo > photo.sha
            truncate -s 60M disk; printf 'label: gpt\nsize=20M,type=U\nsize=30M,type=L\n' | sfdisk -q disk
            mkfs.ext4 -q -F -E offset=$((22020096)) -d root disk 30M 2>&1
            mkfs.vfat --offset 2048 disk 20480 2>&1; mcopy -i disk@@1M root/etc/photo ::PHOTO
            split -b 17M disk drive/raw/disk.img.; gzip -c disk > drive/packed/disk.img.gz
            sfdisk -d disk | sed 's/^device: .*/device: sda/; s/^disk/sda/' > drive/set/table.sfdisk
            dd if=disk of=drive/set/sda1.img bs=1M skip=1 count=20 status=none
            dd if=disk bs=1M skip=21 count=30 status=none | zstd -q > drive/set/sda2.img.zst
            qemu-img convert -q -O qcow2 disk drive/virtual/disk.qcow2
            """);
    }

    private static ImageInsides insides() {
        return new ImageInsides(image -> {
            throw new IOException("none of Granary's own");
        }, image -> ElsewhereDisk.forLooking(folder.resolve("drive"), image.elsewhere().orElseThrow(), folder.resolve("scratch")));
    }

    @ParameterizedTest
    @CsvSource({"raw", "packed", "set", "virtual"})
    void filesAreWhatTheyWere(String where) throws IOException {
        List<ElsewhereImage> found = ElsewhereScan.in(folder.resolve("drive"), where, Watch.NONE).images();
        assertEquals(1, found.size(), found.toString());
        ImageAt at = ImageAt.made("drive", found.get(0));
        Insides insides = insides();
        assertEquals(List.of("vfat", "ext4"), insides.volumes(at).stream().map(each -> each.fileSystem()).toList());
        String sha = Files.readString(folder.resolve("photo.sha")).substring(0, 64);
        for (String place : new String[] {"2:/etc/photo", "1:/PHOTO"}) {
            assertEquals(sha, insides.digest(at, FilePlace.parse(place), Watch.NONE), place);
            assertEquals(0, insides.file(at, FilePlace.parse(place)).imageChunks());
        }
        assertTrue(insides.list(at, FilePlace.parse("2:/"), FolderPage.Asked.ALL).lines().stream()
            .anyMatch(each -> each.name().equals("note.txt") && each.bytes() == 6));
        String stamp = insides.file(at, FilePlace.parse("2:/note.txt")).stamp();
        assertTrue(!stamp.equals(insides().file(at, FilePlace.parse("2:/note.txt")).stamp()), "no two are taken for the same unread");
        assertThrows(FaultException.class, () -> insides.file(at, FilePlace.parse("2:/../etc/shadow-" + UUID.randomUUID())));
    }
}
