package app.granary.core.disk;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;

class BytesTest {
    private static final Bytes DISTINCT = Bytes.of(new byte[] {0x28, 0x73, 0x2A, (byte) 0xC1, 0x1F, (byte) 0xF8, (byte) 0xD2, 0x11,
        (byte) 0xBA, 0x4B, 0, (byte) 0xA0, (byte) 0xC9, 0x3E,
        (byte) 0xC9, 0x3B});

    @Test
    void fieldsAreUnsignedAndLittleEndian() {
        assertEquals(0xC1, DISTINCT.u8(3));
        assertEquals(0xC12A, DISTINCT.u16(2));
        assertEquals(0xC12A7328L, DISTINCT.u32(0));
        assertEquals(0x11D2F81FC12A7328L, DISTINCT.i64(0));
        assertEquals(4294967295L, Bytes.of(new byte[] {-1, -1, -1, -1}).u32(0));
        assertArrayEquals(new byte[] {0x2A, (byte) 0xC1}, DISTINCT.slice(2, 2));
    }

    /** The EFI system partition's GUID as it lies on disk (UEFI Specification 2.10, appendix A and table 5-7). */
    @Test
    void guidsMixTheirByteOrders() {
        assertEquals("C12A7328-F81F-11D2-BA4B-00A0C93EC93B", DISTINCT.guid(0));
        assertEquals("EFI System", PartitionType.of(DISTINCT.guid(0)).name());
        assertTrue(PartitionType.of(DISTINCT.guid(0)).hidden());
    }

    @Test
    void unknownTypesKeepTheirCode() {
        assertEquals(new PartitionType("A7", "A7", false), PartitionType.ofMbr(0xA7));
    }

    @Test
    void textEndsAtItsFirstNulAndSignaturesDoNotReadPastTheEnd() {
        Bytes text = Bytes.of("ab  \0cd".getBytes(StandardCharsets.US_ASCII));
        assertEquals("ab", text.text(0, 7, StandardCharsets.US_ASCII));
        assertTrue(text.matches(0, "ab"));
        assertFalse(text.matches(0, "ac"));
        assertFalse(text.matches(5, "cde"));
    }
}
