package app.granary.core.filesystem;

import static app.granary.core.filesystem.SmallNtfs.directory;
import static app.granary.core.filesystem.SmallNtfs.fileName;
import static app.granary.core.filesystem.SmallNtfs.joined;
import static app.granary.core.filesystem.SmallNtfs.listed;
import static app.granary.core.filesystem.SmallNtfs.resident;
import static app.granary.core.filesystem.SmallNtfs.spread;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertInstanceOf;

import app.granary.core.disk.Extents;
import java.io.IOException;
import java.util.List;
import org.junit.jupiter.api.Test;

/**
 * Built by hand from the layouts in the readers' comments; that real volumes are read alike is tested against ntfs-3g's tools with the
 * engine.
 */
class NtfsReaderTest {
    /** The map's first cluster lies at 100 and is full; its second at 200, told of by record 9, and every second bit of it is free. */
    private static SmallNtfs spreadMap() {
        return new SmallNtfs().record(5)
            .record(6, resident(0x20, "", joined(listed(0x80, 0, 6), listed(0x80, 1, 9))), spread(0x80, 0, "110164"))
            .record(9, spread(0x80, 1, "2101C800")).map(100, 0xFF).map(200, 0x55);
    }

    @Test
    void aMapSpreadOverRecordsIsReadWhole() throws IOException {
        FileSystem.Mapped mapped = assertInstanceOf(FileSystem.Mapped.class, spreadMap().read());
        long inSecond = SmallNtfs.CLUSTERS - 4096;
        assertEquals(inSecond / 2, mapped.freeBlocks());
        assertEquals(SmallNtfs.CLUSTERS - inSecond / 2, mapped.usedBlocks());
        assertEquals(512, mapped.toRead().bytesWithin(4096 * 512, 4098 * 512),
            "of the first two clusters the second map speaks of, one is free");
    }

    @Test
    void aPageFileInPiecesIsLeftOutWhereItLies() throws IOException {
        SmallNtfs volume = spreadMap().record(5, resident(0x90, "$I30", directory("PageFile.sys", 8)));
        // 16 clusters from 500, 8 before that from 450, a hole, told by two records
        volume.record(8, fileName(), resident(0x20, "", joined(listed(0x80, 0, 8), listed(0x80, 24, 10))),
            spread(0x80, 0, "2110F4011108CE"));
        volume.record(10, spread(0x80, 24, "010421047002"));
        List<LeftOut> found = volume.read().leftOut();
        Extents expected = new Extents.Builder().add(450 * 512, 458 * 512).add(500 * 512, 516 * 512).add(624 * 512, 628 * 512).build();
        assertEquals(List.of(new LeftOut("pagefile.sys", LeftOut.What.PAGE_FILE, expected)), found);
    }

    @Test
    void anOldEntryOfADirectoryLeavesNothingOut() throws IOException {
        SmallNtfs volume = spreadMap().record(5, resident(0x90, "$I30", directory("pagefile.sys", 8)));
        volume.record(8, spread(0x80, 0, "2110F401"));
        assertEquals(List.of(), volume.read().leftOut(), "the record names no parent, so it is another file by now");
        assertEquals(List.of(), spreadMap().record(5, resident(0x90, "$I30", directory("pagefile.sys", 15))).read().leftOut(),
            "there is no such record");
    }

    @Test
    void whatContradictsItselfIsReadWholeWithItsReason() throws IOException {
        assertWhole("an attribute in its file table has a piece missing", spreadMap().record(9, spread(0x80, 2, "2101C800")));
        assertWhole("a run in its file table has an impossible length", spreadMap().record(9, spread(0x80, 1, "21FFC800")));
        assertWhole("a run in its file table lies outside the volume", spreadMap().record(9, spread(0x80, 1, "2101FFFF")));
        assertWhole("its cluster map is shorter than the volume", new SmallNtfs().record(5).record(6, spread(0x80, 0, "110164")));
        assertWhole("record 6 of its file table is not one", new SmallNtfs());
        SmallNtfs torn = spreadMap();
        torn.disk.u8(10 * 512 + 6 * 1024 + 510, 8);
        assertWhole("record 6 of its file table was not written whole", torn);
        byte[] dirty = new byte[12];
        dirty[10] = 1;
        assertWhole("it is marked as dirty: it was in use, or was not shut down", spreadMap().record(3, resident(0x70, "", dirty)));
        SmallNtfs asleep = spreadMap().record(2, spread(0x80, 0, "21012C01"));
        asleep.disk.text(300 * 512, "RSTR").u16(300 * 512 + 24, 48);
        assertWhole(
            "its journal is still open: the computer was not shut down, or only put to sleep. Shut it down fully and it is read by its map",
            asleep);
        asleep.disk.u16(300 * 512 + 48 + 12, 0xFFFF);
        assertInstanceOf(FileSystem.Mapped.class, asleep.read(), "no client in use: the journal is closed");
        SmallNtfs longer = spreadMap();
        longer.disk.u32(40, SmallNtfs.CLUSTERS + 2);
        assertWhole("the file system says it has 8002 sectors of 512 bytes, its partition only 8001", longer);
    }

    private static void assertWhole(String reason, SmallNtfs volume) throws IOException {
        assertEquals(reason, assertInstanceOf(FileSystem.Whole.class, volume.read()).reason());
    }
}
