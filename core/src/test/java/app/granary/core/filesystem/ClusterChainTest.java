package app.granary.core.filesystem;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

class ClusterChainTest {
    private static List<Long> walked(MemoryDisk fat, int bits, long mask, long first) throws IOException, Untrusted {
        List<Long> out = new ArrayList<>();
        new ClusterChain(fat, 0, 60, bits, mask, 30).walk(first, cluster -> out.add(cluster));
        return out;
    }

    /** The same chain, 2 to 5 to 3 to its end, in each width; FAT12 packs two entries into three bytes (FAT specification 1.03). */
    @Test
    void chainsOfAllWidths() throws IOException, Untrusted {
        assertEquals(List.of(2L, 5L, 3L), walked(new MemoryDisk(60).u16(4, 5).u16(10, 3).u16(6, 0xFFF8), 16, 0xFFFF, 2));
        assertEquals(List.of(2L, 5L, 3L),
            walked(new MemoryDisk(60).u32(8, 0xF000_0005L).u32(20, 3).u32(12, 0x0FFF_FFFF), 32, 0x0FFF_FFFF, 2));
        // entries 2 and 3: 005 FFF -> 05 F0 FF; entry 5 is the upper half of bytes 7 and 8: 003 -> 30 00
        assertEquals(List.of(2L, 5L, 3L),
            walked(new MemoryDisk(60).u8(3, 0x05).u8(4, 0xF0).u8(5, 0xFF).u8(7, 0x30).u8(8, 0x00), 12, 0xFFF, 2));
    }

    @Test
    void circlesAndDeadEndsAreFoundOut() {
        MemoryDisk circle = new MemoryDisk(60).u16(4, 5).u16(10, 2);
        assertEquals("a chain of clusters in it runs in circles",
            assertThrows(Untrusted.class, () -> walked(circle, 16, 0xFFFF, 2)).getMessage());
        MemoryDisk nowhere = new MemoryDisk(60).u16(4, 5).u16(10, 0);
        assertEquals("a chain of clusters in it leads nowhere",
            assertThrows(Untrusted.class, () -> walked(nowhere, 16, 0xFFFF, 2)).getMessage());
    }
}
