package app.granary.core.image;

import static org.junit.jupiter.api.Assertions.assertEquals;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionType;
import java.util.List;
import java.util.OptionalLong;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.api.Test;

/** Three disks of two computers; invented. */
class OwnerTest {
    private static final List<Owner.Candidate> KNOWN = List.of(
        new Owner.Candidate("a", "PLUMB", "HS-0250", "0A0B0C0D", List.of(new Owner.Place(100, 300), new Owner.Place(400, 500))),
        new Owner.Candidate("b", "CONTOUR", "CO-1", "GUID-1", List.of(new Owner.Place(100, 900))),
        new Owner.Candidate("c", "CONTOUR", "CO-2", "GUID-1", List.of(new Owner.Place(100, 900))));

    @ParameterizedTest
    @CsvSource(delimiter = '|', nullValues = "-", value = {
        "CO-2| GUID-1   | 900     | x.img                 | c| serial number is in the image",
        "''  | 0A0B0C0D | 900     | x.img                 | a| carries that disk's identity",
        "''  | GUID-1   | 900     | x.img                 | -| two disks with a cloned table",
        "''  | GUID-1   | 900     | contour-CO-1.img.gz   | b| the disk's serial number",
        "''  | OTHER    | 300 500 | x.img                 | a| lie where that disk's lie",
        "''  | ''       | ''      | backup_plumb 2024.img | a| the computer's name",
        "''  | ''       | ''      | plumbing.img          | -| a longer word is another word",
        "''  | ''       | ''      | contour.img           | -| a computer of two disks"})
    void theSurestSignThatPointsAtOneDiskDecides(String serial, String tableId, String sizes, String file, String expected, String why) {
        long[] at = {100};
        List<Partition> partitions = List.of(sizes.trim().split(" ")).stream().filter(size -> !size.isEmpty()).mapToLong(Long::parseLong)
            .mapToObj(size -> new Partition(1, (at[0] += size) - size, size, new PartitionType("", "", false), "", "", 0, false)).toList();
        var owner = Owner.of(new DiskInside(OptionalLong.empty(), "gpt", tableId, partitions, serial, ""), file, KNOWN);
        assertEquals(expected, owner.map(Owner::diskId).orElse(null), why);
        owner.ifPresent(found -> assertEquals(true, found.why().contains(why), found.why()));
    }

    @Test
    void aTablesIdentityIsItsGuidOrSignature() {
        assertEquals("G", DiskInside.idOf(new PartitionTable.Gpt("G", 34, 99, 128, List.of(), List.of())));
        assertEquals("00C0FFEE", DiskInside.idOf(new PartitionTable.Mbr(0xC0FFEE, List.of())));
        assertEquals("", DiskInside.idOf(new PartitionTable.Mbr(0, List.of())), "many tools leave it zero, and zeros are no identity");
        assertEquals("", DiskInside.idOf(new PartitionTable.Absent()));
    }
}
