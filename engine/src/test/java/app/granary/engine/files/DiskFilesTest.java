package app.granary.engine.files;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.FileEntry;
import app.granary.core.filesystem.FileSystems;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageSource;
import app.granary.engine.codec.Codec;
import app.granary.engine.host.ImageWork;
import app.granary.engine.host.Storage;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import java.util.Random;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is fetched is held against the files that went in, and against what debugfs (e2fsprogs) and mcopy (mtools) take out. */
class DiskFilesTest {
    @TempDir
    Path folder;

    private Fetch.Fetched fetched(Path disk, String place) throws IOException {
        try (RawSource source = RawSource.open(disk)) {
            return Fetch.run(new DiskFiles(source), FilePlace.parse(place), folder.resolve("out"), Watch.NONE);
        }
    }

    @ParameterizedTest
    @CsvSource({"GPT_EXT4_AND_FAT, 1", "GPT_EXT4_AND_FAT, 2", "MBR_EXT2_AND_LOGICAL, 1", "MBR_EXT2_AND_LOGICAL, 5",
        "MBR_EXT2_AND_LOGICAL, 6", "EXT2_NO_TABLE, 0", "EXT3_NO_TABLE, 0", "MBR_FAT12, 1", "MBR_FAT16, 1", "FAT12_ONE_MIB, 0",
        "GPT_EXT4_BIGALLOC, 1", "GPT_EXT4_4K_SECTORS, 2"})
    void allThatWentInComesOut(Medium medium, int partition) throws Exception {
        Path disk = medium.make(folder);
        Fetch.Fetched fetched;
        try (RawSource source = RawSource.open(disk).withSectorBytes(medium.sectorBytes())) {
            fetched = Fetch.run(new DiskFiles(source), FilePlace.parse(partition + ":"), folder.resolve("out"), Watch.NONE);
        }
        assertEquals(List.of(), fetched.passedOver());
        Tools.run(folder, "rm -rf out/lost+found root/gone/a; diff -r out root");
    }

    /** Holes, room set aside, a folder with an index, a name of 255 bytes, a file of blocks of blocks of blocks, content in the inode. */
    @Test
    void whatIsSpecialOfExtIsWhatDebugfsTakesOut() throws Exception {
        for (String made : new String[] {"ext4 -O inline_data -I 256", "ext2", "ext3 -b 1024"}) {
            Tools.run(folder, "rm -rf in out theirs ext.img; mkdir in; cd in; seq 90000 > text; "
                + "touch -d 2021-03-04T05:06:07Z text; truncate -s 9M hole; "
                + "seq 9 | dd of=hole bs=1 seek=5000000 conv=notrunc status=none; head -c 14000000 /dev/urandom > long; "
                + "printf tiny > tiny; : > empty; "
                + "printf '" + "n".repeat(255) + "' | xargs touch; ln -s text link; mkfifo pipe; mkdir many; "
                + "(cd many; seq -f 'file-%g' 3000 | xargs touch); fallocate -l 200K aside; "
                + "seq 5 | dd of=aside conv=notrunc status=none; cd ..; mkfs." + made + " -q -F -d in ext.img 60M; mkdir theirs; "
                + "debugfs -R 'rdump / theirs' ext.img 2>/dev/null");
            Fetch.Fetched fetched = fetched(folder.resolve("ext.img"), "0:/");
            // mkfs -d lets a file end where its last hole begins; of empty files with content in the inode debugfs takes out too much
            Tools.run(folder, "for f in hole aside; do cmp out/$f theirs/$f; rm out/$f in/$f; done; rm -rf */lost+found */link */pipe; "
                + "diff -r out in");
            assertEquals(2, fetched.passedOver().size(), "a link and a pipe: " + fetched.passedOver());
            assertEquals(Tools.run(folder, "stat -c %Y in/text"), Tools.run(folder, "stat -c %Y out/text"));
        }
    }

    @Test
    void whatIsSpecialOfFatIsWhatMcopyTakesOut() throws Exception {
        Tools.run(folder, "mkdir -p 'in/A folder of a long name/below' theirs; "
            + "seq 5000 > 'in/A folder of a long name/below/Übung für später.txt'; : > in/empty; seq 70000 > in/LONG.TXT; "
            + "truncate -s 40M fat.img; mkfs.vfat -F 32 -s 1 fat.img > made; export MTOOLS_SKIP_CHECK=1 LC_ALL=C.UTF-8; "
            + "mcopy -s -i fat.img in/* ::/; mcopy -s -n -i fat.img '::/*' theirs");
        assertEquals(List.of(), fetched(folder.resolve("fat.img"), "0:/").passedOver());
        Tools.run(folder, "diff -r out theirs; diff -r out in");
    }

    /** Packed files, holes, folders of many and long names; held against what ntfscat (ntfs-3g) reads of the same bytes. */
    @Test
    void whatIsSpecialOfNtfsIsWhatNtfscatReads() throws Exception {
        Path made = Path.of("src/test/ntfs/files.img.gz").toAbsolutePath();
        Tools.run(folder, "gzip -dc '" + made + "' > ntfs.img");
        Fetch.Fetched fetched = fetched(folder.resolve("ntfs.img"), "0:/");
        assertEquals(List.of(), fetched.passedOver());
        Tools.run(folder, "for f in packed/numbers packed/zeros packed/mixed packed/empty packed/tiny plain/resident plain/numbers "
            + "plain/hole plain/second-name plain/pieces plain/between "
            + "'A folder of a long name/Übung für später, mit einem langen Namen.txt' deep/$(printf 'd/%.0s' $(seq 40))end; do "
            + "LC_ALL=C.UTF-8 ntfscat ntfs.img \"$f\" | cmp - \"out/$f\" || exit 1; done; "
            + "seq 30000 | cmp - out/packed/numbers; seq 20000 | cmp - out/plain/numbers; test \"$(wc -c < out/plain/hole)\" = 3145728; "
            + "test \"$(ls out/many | wc -l)\" = \"$(ntfsls -p /many ntfs.img | grep -c file-)\"");
        assertEquals("2021-03-04T05:06:07Z", Files.getLastModifiedTime(folder.resolve("out/plain/numbers")).toInstant().toString());
        // a folder learns of a file's new length late, and by one of its names: it stands 18 bytes before the name (as the flags below)
        Tools.run(folder, "python3 - <<'X'\nd=bytearray(open('ntfs.img','rb').read())\nname='numbers'.encode('utf-16le'); at=-1\n"
            + "while (at:=d.find(name,at+1))>=0: d[at-18:at-10]=(77).to_bytes(8,'little')\nopen('stale.img','wb').write(d)\nX");
        try (RawSource source = RawSource.open(folder.resolve("stale.img"))) {
            for (String each : new String[] {"packed/numbers", "plain/numbers"}) {
                assertEquals(Files.size(folder.resolve("out/" + each)), new DiskFiles(source).find(FilePlace.parse("0:/" + each)).entry()
                    .bytes(), each);
            }
        }
        // flags and the kind of link stand 10 and 6 bytes before a name, in its record and in the index (MS-FSCC 2.1.2.1, 2.6)
        Tools.run(folder, "rm -r out; python3 - <<'X'\nd=bytearray(open('ntfs.img','rb').read())\n"
            + "for name, flags, link in (('tiny',0x4000,0), ('mixed',0x400,0x80000017), ('resident',0x400,0xA000000C)):\n"
            + " at=-1\n while (at:=d.find(name.encode('utf-16le'),at+1))>=0:\n"
            + "  d[at-10:at-6]=flags.to_bytes(4,'little'); d[at-6:at-2]=link.to_bytes(4,'little')\nopen('ntfs.img','wb').write(d)\nX");
        assertEquals("\"mixed\" cannot be read: only its own system can read it, by a driver. \"resident\" is neither a file nor a folder. "
            + "\"tiny\" cannot be read: it is encrypted by its system.",
            fetched(folder.resolve("ntfs.img"), "0:/").passedOver().stream().sorted().collect(Collectors.joining(" ")));
    }

    /** Names in a large folder stand in the order of hashes: each chunk of an image would be decoded again for each of them. */
    @Test
    void inodesAreReadInTheOrderTheyLieIn() throws Exception {
        Tools.run(folder, "mkdir in; (cd in; seq -f %04g 2000 | xargs touch); mkfs.ext4 -q -F -I 256 -d in ext.img 8M; "
            + "debugfs -w -R 'mkdir /mixed' ext.img 2>/dev/null; for f in 1500 0002 0800 0003 1501 0801; do "
            + "debugfs -w -R \"link /$f /mixed/$f\" ext.img 2>/dev/null; done");
        List<Long> read = new ArrayList<>();
        try (RawSource source = RawSource.open(folder.resolve("ext.img"))) {
            BlockSource told = new BlockSource() {
                @Override
                public String name() {
                    return source.name();
                }

                @Override
                public long sizeBytes() {
                    return source.sizeBytes();
                }

                @Override
                public int sectorBytes() {
                    return source.sectorBytes();
                }

                @Override
                public void read(long offsetBytes, ByteBuffer into) throws IOException {
                    if (into.remaining() == 64 << 10) {
                        read.add(offsetBytes);
                    }
                    source.read(offsetBytes, into);
                }
            };
            DiskFiles files = new DiskFiles(told);
            files.list(FilePlace.parse("0:/lost+found"));
            read.clear();
            assertEquals(List.of("1500", "0002", "0800", "0003", "1501", "0801"), files.list(FilePlace.parse("0:/mixed")).stream()
                .map(FileEntry::name).toList());
        }
        List<Long> ofTheNames = read.subList(read.size() - 3, read.size());
        assertEquals(ofTheNames.stream().sorted().distinct().toList(), ofTheNames);
        assertTrue(read.size() <= 5, "around the two folders, and once around each file: " + read);
    }

    /** The image is not written to, and says what the disk says. */
    @Test
    void anImageIsLookedIntoAsTheDisk() throws Exception {
        Path disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        try (RawSource source = RawSource.open(disk)) {
            ImageWork.capture(source, new DiskIdentity("model", "serial", source.sizeBytes()), new Storage(Codec.ZSTD, 3,
                OptionalLong.empty(), SurveyChoice.USED), "image", folder, Clock.systemUTC(), Watch.NONE);
            String before = Tools.run(folder, "cd image && find . -type f | sort | xargs sha256sum");
            try (ImageSource image = ImageSource.forMany(Bag.open(folder.resolve("image")))) {
                DiskFiles ours = new DiskFiles(image);
                assertEquals(List.of("vfat 1", "ext4 2"), ours.volumes().stream().map(each -> (each.fileSystem().startsWith("fat") ? "vfat"
                    : each.fileSystem()) + " " + each.number()).toList());
                for (DiskFiles.Volume each : ours.volumes()) {
                    assertEquals(FileSystems.probe(source, each.startBytes(), each.sizeBytes()).kind(), each.fileSystem());
                }
                assertEquals(new DiskFiles(source).list(FilePlace.parse("2:/etc")), ours.list(FilePlace.parse("2:/etc")));
                assertEquals("passwd", ours.list(FilePlace.parse("2:/etc/passwd")).get(0).name());
                Fetch.run(ours, FilePlace.parse("2:/numbers"), folder.resolve("one"), Watch.NONE);
                Tools.run(folder, "cmp one root/numbers");
                for (String wrong : new String[] {"2:/etc/none", "2:/numbers/below", "9:/", "x", "", "2", "2:etc", "../..", "2:/../etc"}) {
                    assertThrows(FaultException.class, () -> ours.list(FilePlace.parse(wrong)), wrong);
                }
                assertThrows(FaultException.class, () -> Fetch.run(ours, FilePlace.parse("2:/numbers"), folder.resolve("one"), Watch.NONE));
            }
            assertEquals(before, Tools.run(folder, "cd image && find . -type f | sort | xargs sha256sum"));
        }
    }

    /** Names that lead elsewhere, a folder in itself, and bytes turned at random: told, and nothing outside is written. */
    @Test
    void aDiskThatLiesHarmsNothing() throws Exception {
        Tools.run(folder, "mkdir -p in/aaaa/below; seq 9 > in/aaaa/below/" + "b".repeat(22)
            + "; mkfs.ext4 -q -F -O ^metadata_csum -d in ext.img 8M; "
            + "python3 - <<'X'\nd=open('ext.img','rb').read()\nd=d.replace(b'b'*22,b'../../granary-escaped\\0')\n"
            + "open('ext.img','wb').write(d.replace(b'below',b'a\\nb/c'))\nX");
        Fetch.Fetched fetched = fetched(folder.resolve("ext.img"), "0:/");
        assertEquals(1, fetched.passedOver().stream().filter(each -> each.contains("cannot be one here")).count(),
            fetched.passedOver().toString());
        Tools.run(folder, "test ! -e granary-escaped -a ! -e ../granary-escaped; rm -rf out ext.img; mkdir -p in/loop/a; "
            + "mkfs.ext4 -q -F -O ^metadata_csum -d in ext.img 8M; "
            + "for to in /loop/a/again /again; do debugfs -w -R \"link /loop $to\" ext.img 2>/dev/null; done");
        assertTrue(fetched(folder.resolve("ext.img"), "0:/").passedOver().stream().anyMatch(each -> each.contains("leads back")));
        byte[] sound = Files.readAllBytes(Medium.MBR_FAT16.make(folder));
        Tools.run(folder, "gzip -dc '" + Path.of("src/test/ntfs/files.img.gz").toAbsolutePath() + "' > ntfs.img");
        byte[] packed = Files.readAllBytes(folder.resolve("ntfs.img"));
        int table = new String(packed, 0, 4 << 20, java.nio.charset.StandardCharsets.ISO_8859_1).indexOf("FILE0");
        Random random = new Random(20);
        for (int round = 0; round < 60; round++) {
            boolean ntfs = round % 6 == 0;
            byte[] harmed = ntfs ? packed.clone() : sound.clone();
            for (int i = 0; i < 40; i++) {
                harmed[(ntfs ? table + 5 * 1024 : 1 << 20) + random.nextInt(ntfs ? 100_000 : 300_000)] = (byte) random.nextInt(256);
            }
            Path disk = Files.write(folder.resolve("harmed.img"), harmed);
            Tools.run(folder, "rm -rf out");
            try {
                fetched(disk, ntfs ? "0:/" : "1:/");
            } catch (FaultException told) {
                assertTrue(told.fault().sentence().endsWith("."), told.fault().sentence());
            }
        }
    }

    @Test
    void filesOfExfatComeOutAsTheyWent() throws Exception {
        Path disk = Medium.MBR_EXFAT.make(folder);
        try (RawSource source = RawSource.open(disk)) {
            List<FileEntry> found = new DiskFiles(source).list(FilePlace.parse("1:/"));
            assertTrue(!found.isEmpty() && found.stream().allMatch(each -> each.unreadable().isEmpty()), found.toString());
            for (FileEntry each : found.stream().filter(entry -> entry.kind() == FileEntry.Kind.FILE).collect(Collectors.toList())) {
                Path out = folder.resolve("out-" + each.name());
                Fetch.run(new DiskFiles(source), FilePlace.parse("1:/" + each.name()), out, Watch.NONE);
                byte[] content = new byte[(int) each.bytes()];
                new Random(each.name().charAt(each.name().length() - 1) - '0').nextBytes(content); // as it was put there
                assertArrayEquals(content, Files.readAllBytes(out));
            }
        }
    }
}
