package app.granary.engine.elsewhere;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.Partition;
import app.granary.core.fault.FaultException;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Images made by the tools anybody has: dd's bytes, packed by gzip, zstd, xz and bzip2, parted by split, with lists by sha256sum. */
class ElsewhereTest {
    @TempDir
    Path root;

    private List<ElsewhereImage> scan(String folder) throws IOException {
        ElsewhereScan.Found found = ElsewhereScan.in(root, folder, Watch.NONE);
        assertTrue(found.all());
        return found.images();
    }

    private ElsewhereCheck.Result check(ElsewhereImage image, ProofLevel level) throws IOException {
        return ElsewhereCheck.run(root, image, level, Watch.NONE);
    }

    private Path medium(Medium medium) throws IOException {
        Path made = medium.make(Files.createDirectories(root.resolve(".made")));
        return Files.move(made, root.resolve(".made/disk"), java.nio.file.StandardCopyOption.REPLACE_EXISTING);
    }

    /** The table as fdisk tells it of the same disk; the digests as sha256sum does. */
    @ParameterizedTest
    @CsvSource(delimiter = '!', nullValues = "-", value = {
        "GPT_EXT4_1K          ! cp ../.made/disk plumb.img                                                    ! plumb.img   ! 1 ! COMPLETE",
        "GPT_EXT4_1K          ! cp ../.made/disk plumb.img; sha256sum plumb.img > SHA256SUMS                  ! plumb.img   ! 1 ! READABLE",
        "MBR_EXT2_AND_LOGICAL ! split -b 50M -d -a 3 ../.made/disk plumb.; sha256sum -b --tag plumb.* > SHA256SUMS.txt ! plumb ! 3 ! "
            + "READABLE",
        "MBR_EXT2_AND_LOGICAL ! gzip -1 < ../.made/disk > x; split -b 60000 x d.img.gz.; sha256sum < x | sed 's/ .*/  d.img.gz/' > "
            + "d.img.gz.sha256; rm x ! d.img.gz ! - ! READABLE",
        "GPT_EXT4_1K          ! (head -c 10M ../.made/disk | gzip -1; tail -c +10485761 ../.made/disk | gzip -1) > two-members ! "
            + "two-members ! 1 ! READABLE",
        "GPT_EXT4_4K_SECTORS  ! zstd -q -1 --no-check ../.made/disk -o old.zst                                ! old.zst     ! 1 ! COMPLETE",
        "GPT_NTFS             ! zstd -q -1 ../.made/disk -o old.zst                                           ! old.zst     ! 1 ! READABLE",
        "GPT_NTFS             ! zstd -q -1 --no-check ../.made/disk -o old.zst; sha256sum ../.made/disk | sed 's/ .*/  old/' > "
            + "SHA256SUMS ! old.zst ! 1 ! READABLE",
        "GPT_NTFS             ! xz -0 -T1 < ../.made/disk | split -b 1k -d - a.xz.part                        ! a.xz        ! - ! READABLE",
        "MBR_FAT12            ! bzip2 -1 < ../.made/disk > card.bz2                                           ! card.bz2    ! 1 ! READABLE",
        "EXT2_NO_TABLE        ! mkdir data; gzip -1 < ../.made/disk > data/fs.gz; echo 'BagIt-Version: 1.0' > bagit.txt; sha256sum "
            + "data/fs.gz > manifest-sha256.txt ! fs.gz ! 1 ! READABLE"})
    void whatCommonToolsMakeIsFoundToldAndProven(Medium medium, String script, String name, Integer parts, ProofLevel reached)
        throws IOException {
        Path disk = medium(medium);
        Files.createDirectories(root.resolve("old"));
        Tools.run(root.resolve("old"),
            "echo notes > readme.txt; head -c 9000 /dev/urandom > noise.bin; gzip -c /bin/bash > words.gz; " + script);
        List<ElsewhereImage> found = scan("");
        assertEquals(List.of(name), found.stream().map(ElsewhereImage::name).toList(), "and nothing that is no disk");
        ElsewhereImage image = found.get(0);
        assertEquals("", image.trouble());
        assertEquals(parts == null ? image.files().size() : parts, image.files().size());
        assertTrue(parts != null || image.files().size() > 3);
        boolean logicalsFurtherIn = name.endsWith(".gz") && medium == Medium.MBR_EXT2_AND_LOGICAL;
        if (medium.hasTable() && !logicalsFurtherIn) {
            String told = Tools.run(root, "fdisk -b " + medium.sectorBytes() + " -l -o start .made/disk | grep -E '^ *[0-9]+$'");
            assertEquals(Arrays.stream(told.strip().split("\\s+")).map(sector -> Long.parseLong(sector) * medium.sectorBytes()).toList(),
                image.inside().partitions().stream().map(Partition::startBytes).toList());
        }
        ElsewhereCheck.Result result = check(image, ProofLevel.READABLE);
        assertEquals(List.of(), result.outcome().problems());
        assertEquals(reached, result.outcome().level(), result.note());
        assertEquals(Files.size(disk), result.contentBytes().orElseThrow());
        String sums = Tools.run(root.resolve("old").resolve(Files.isDirectory(root.resolve("old/data")) ? "data" : ""),
            "sha256sum " + String.join(" ", image.files().stream().map(ElsewhereFile::name).toList()));
        assertEquals(sums, image.files().stream().map(file -> result.digests().get(file.name()) + "  " + file.name() + "\n")
            .collect(Collectors.joining()));
        aByteTurnedIsFound(image, result);
    }

    /** What was taken now is what the next check compares with; a byte turned is found, in the file it lies in. */
    private void aByteTurnedIsFound(ElsewhereImage image, ElsewhereCheck.Result result) throws IOException {
        ElsewhereImage known = image.with(
            image.files().stream().map(f -> new ElsewhereFile(f.name(), f.bytes(), result.digests().get(f.name()), "taken")).toList(),
            image.inside());
        assertEquals(ProofLevel.SOUND, check(known, ProofLevel.SOUND).outcome().level());
        ElsewhereFile hit = known.files().get(known.files().size() / 2);
        Path harmed = root.resolve(known.folder()).resolve(hit.name());
        try (RandomAccessFile file = new RandomAccessFile(harmed.toFile(), "rw")) {
            file.seek(hit.bytes() / 2);
            int was = file.read();
            file.seek(hit.bytes() / 2);
            file.write(was ^ 4);
        }
        assertEquals(hit.name(), check(known, ProofLevel.SOUND).outcome().problems().get(0).part());
        assertTrue(check(known, ProofLevel.READABLE).outcome().problems().stream().anyMatch(p -> p.part().equals(hit.name())));
        Files.write(harmed, new byte[1], java.nio.file.StandardOpenOption.APPEND);
        assertTrue(check(known, ProofLevel.COMPLETE).outcome().problems().get(0).message().contains("when it was added"));
    }

    @Test
    void aGapALinkAndAFolderOutsideAreTold() throws IOException {
        medium(Medium.GPT_NTFS);
        Files.createDirectories(root.resolve("old"));
        Tools.run(root.resolve("old"),
            "gzip -1 < ../.made/disk | split -b 5k -d - gap.gz.; rm gap.gz.01; ln -s ../.made/disk link.img; ln -s / out; cp "
                + "../.made/disk kept.img");
        List<ElsewhereImage> found = scan("old");
        assertEquals(List.of("gap.gz", "kept.img"), found.stream().map(ElsewhereImage::name).toList(), "links are not followed");
        assertTrue(found.get(0).trouble().contains("A part is missing after gap.gz.00."), found.get(0).trouble());
        for (String folder : List.of("..", "../", "/../..", "old/../..", "old/out", "nothing", "old/kept.img", "old\0")) {
            assertThrows(FaultException.class, () -> scan(folder), folder);
        }
        ElsewhereImage kept = found.get(1);
        Tools.run(root.resolve("old"), "rm kept.img; ln -s ../.made/disk kept.img");
        assertTrue(check(kept, ProofLevel.SOUND).outcome().problems().get(0).message().contains("a link or a folder now"));
    }

    /** Cut off at any place, by dd as by a full drive: an image that ends too soon is never readable. */
    @ParameterizedTest
    @CsvSource({"gzip -1,.gz", "zstd -q -1 --no-check,.zst", "xz -0,.xz", "bzip2 -1,.bz2", "cat,.img"})
    void oneThatWasCutShortIsNeverReadable(String pack, String ending) throws IOException {
        medium(Medium.GPT_NTFS);
        Path cut = root.resolve("whole" + ending);
        Tools.run(root, pack + " < .made/disk > " + cut.getFileName());
        byte[] whole = Files.readAllBytes(cut);
        for (int tenth = 3; tenth < 10; tenth += 3) {
            Files.write(cut, Arrays.copyOf(whole, whole.length * tenth / 10));
            for (ElsewhereImage image : scan("")) {
                ElsewhereCheck.Result result = check(image, ProofLevel.READABLE);
                assertTrue(!result.outcome().ok() || !image.inside().remark().isEmpty(), tenth + " tenths of it" + ending);
            }
        }
    }
}
