package app.granary.core.target;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

class OverwriteRulesTest {
    private static final List<String> HELD = List.of("one partition");

    private static TargetDisk disk(boolean attached, boolean readOnly, String inUse, List<String> images) {
        return new TargetDisk("s", "Spare 1", new DiskIdentity("Aldine N1", "7K-0198-SP", 120_034_123_776L), 512, "USB",
            TargetDisk.Kind.SPARE, attached, readOnly, inUse, List.of(), images, 1);
    }

    private static String why(TargetDisk disk, Set<String> sources, List<String> only, String typed) {
        List<String> refusals = new OverwriteRules(disk, false, sources, only, "").refusals(typed);
        return refusals.isEmpty() ? "" : refusals.get(0);
    }

    @Test
    void everyReasonRefusesAndNamesTheDiskInFull() {
        TargetDisk good = disk(true, false, "", List.of());
        assertEquals("", why(good, Set.of("PEG-1"), List.of(), " 8-sp "));
        for (String wrong : List.of("", "7K-0198-SP", "8-SQ", "0199")) {
            assertTrue(why(good, Set.of(), List.of(), wrong).endsWith("Read them off the disk itself, and type them."), wrong);
        }
        assertTrue(why(good, Set.of("7K-0198-SP"), List.of(), "8-SP")
            .startsWith("Spare 1 (Aldine N1, serial 7K-0198-SP, 120 GB) is the source"));
        assertTrue(why(disk(false, false, "", List.of()), Set.of(), List.of(), "8-SP").contains("is not attached"));
        assertTrue(why(disk(true, true, "", List.of()), Set.of(), List.of(), "8-SP").contains("is write-protected"));
        assertTrue(why(disk(true, false, "mounted at /", List.of()), Set.of(), List.of(), "8-SP").contains("is in use: mounted at /"));
        assertTrue(why(disk(true, false, "", List.of("a")), Set.of(), List.of("a"), "8-SP").contains("holds the only copy of a. Copy it"));
        assertTrue(why(disk(true, false, "", List.of("a", "b")), Set.of(), List.of(), "8-SP")
            .contains("holds 2 images. Release or move them first"));
    }

    @Test
    void anotherDiskInItsPlaceIsNoticed() {
        TargetDisk now = disk(true, false, "", List.of());
        TargetLook look = new TargetLook(now, HELD);
        assertEquals(List.of(), OverwriteRules.another(look, now.identity(), look.holds()));
        assertTrue(OverwriteRules.another(look, new DiskIdentity("Aldine N1", "7K-0199-SP", 120_034_123_776L), look.holds()).get(0)
            .startsWith("Another disk is there now: Spare 1"));
        assertTrue(OverwriteRules.another(look, new DiskIdentity("Aldine N1", "7K-0198-SP", 240_057_409_536L), look.holds()).get(0)
            .startsWith("Another disk"), "a larger one");
        assertTrue(OverwriteRules.another(look, now.identity(), List.of("nothing")).get(0).contains("It holds now: one partition"));
        assertTrue(
            OverwriteRules.another(new TargetLook(disk(true, true, "", List.of()), HELD), now.identity(),
            look.holds()).get(0).contains("write-protected now"));
    }

    @Test
    void whatCannotBeToldOrIsKeptIsNotOverwritten() {
        TargetDisk twin = new TargetDisk("s", "/dev/sdb", new DiskIdentity("Dock", "0001", 1000), 512, "USB", TargetDisk.Kind.SPARE, true,
            false, "", List.of("/dev/sdc"), List.of(), 1);
        TargetDisk nameless = new TargetDisk("s", "/dev/sdb", new DiskIdentity("Adapter", "", 1000), 512, "USB", TargetDisk.Kind.SPARE,
            true, false, "", List.of(), List.of(), 1);
        assertTrue(why(twin, Set.of(), List.of(), "0001")
            .contains("answers just as /dev/sdc does, so it cannot be told which would be overwritten"));
        assertTrue(why(nameless, Set.of(), List.of(), "/sdb").contains("gives no serial number"));
        assertEquals(List.of(), new OverwriteRules(twin, true, Set.of(), List.of(), "").refusals("0001"));
        assertEquals(List.of(), new OverwriteRules(nameless, true, Set.of(), List.of(), "").refusals("/sdb"));
        assertTrue(
            new OverwriteRules(disk(true, false, "", List.of()), false, Set.of(), List.of(), "the spare of TRIPOD").refusals("8-SP").get(0)
                .contains("is the spare of TRIPOD. Retire it"));
    }

    @Test
    void aPreparationSaysWhatCannotBe() {
        assertEquals(List.of(),
            new Preparation(Preparation.Scheme.GPT, Preparation.StoreFileSystem.EXFAT, "PEG-4", 0).problems(1_000_204_886_016L, 512));
        assertTrue(new Preparation(Preparation.Scheme.GPT, Preparation.StoreFileSystem.EXFAT, "a b", 0).problems(1_000_204_886_016L, 512)
            .get(0).contains("cannot be written on every kind of drive"));
        assertTrue(new Preparation(Preparation.Scheme.MBR, Preparation.StoreFileSystem.NTFS, "PEG-4", 0).problems(3_000_592_982_016L, 512)
            .get(0).contains("2^32 sectors"));
        assertTrue(new Preparation(Preparation.Scheme.GPT, Preparation.StoreFileSystem.EXT4, "PEG-4", 1 << 20)
            .problems(1_000_204_886_016L, 512).get(0).contains("at least 64 MiB"));
        assertTrue(new Preparation(Preparation.Scheme.GPT, Preparation.StoreFileSystem.EXT4, "PEG-4", 0).problems(1 << 20, 512).get(0)
            .contains("too small"));
    }
}
