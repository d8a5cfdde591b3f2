package app.granary.standins;

import app.granary.core.inventory.ComputerFacts;
import app.granary.core.inventory.Encryption;
import app.granary.core.inventory.Firmware;
import app.granary.core.inventory.KeyPlace;
import app.granary.engine.host.Links;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** Who and what there is in the made-up office. Every name, maker, model and serial is invented. */
final class MarrowbySurveyOffice {
    static final String NAME = "Marrowby Survey Office";
    /** How many times as fast as a real one the office's links work, so that a run can be watched. */
    static final int PACE = 40;

    /** A computer without its disks. */
    record Desk(String name, String role, String owner, ComputerFacts facts) {
    }

    private static ComputerFacts uefi(String maker, String model, String key, boolean secure, String system, Encryption encryption,
        KeyPlace place, String note) {
        return new ComputerFacts(maker, model, Firmware.UEFI, key, Optional.of(secure), system, encryption, place, note);
    }

    private static ComputerFacts bios(String maker, String model, String key, String system) {
        return new ComputerFacts(maker, model, Firmware.BIOS, key, Optional.empty(), system, Encryption.NONE, KeyPlace.UNKNOWN, "");
    }

    static final List<Desk> DESKS = List.of(
        new Desk("CONTOUR", "mapping workstation", "Idris Fell",
            uefi("Wren & Marlow", "Plain 7", "F12", true, "Aster 6", Encryption.NONE, KeyPlace.UNKNOWN, "")),
        new Desk("DATUM", "file server", "everyone",
            uefi("Holt Systems", "Rack 2", "F11", false, "Larch Linux, autumn", Encryption.NONE, KeyPlace.UNKNOWN, "")),
        new Desk("GNOMON", "plotter controller", "the drawing room", bios("Pike Controls", "PC-4", "Esc", "controller firmware 3.1")),
        new Desk("ISOBAR", "laptop", "Tamsin Roe",
            uefi("Wren & Marlow", "Leaf 13", "F12", false, "Larch Linux, spring", Encryption.NONE, KeyPlace.UNKNOWN, "")),
        new Desk("LEDGER", "accounts", "Bram Oakes",
            uefi("Holt Systems", "Desk 5", "F9", true, "Aster 5", Encryption.NONE, KeyPlace.UNKNOWN, "")),
        new Desk("MERIDIAN", "drafting workstation", "Orla Venn",
            uefi("Wren & Marlow", "Tower 9", "F12", true, "Aster 6", Encryption.NONE, KeyPlace.UNKNOWN, "")),
        new Desk("PLUMB", "front desk", "Nell Harrow", bios("Dunmore", "Slim 3", "F8", "Aster 3")),
        new Desk("THEODOLITE", "field laptop", "Piers Calloway",
            uefi("Wren & Marlow", "Field 12", "F12", true, "Larch Linux, spring", Encryption.VOLUMES, KeyPlace.SAFE, "envelope 4")),
        new Desk("TRIPOD", "field laptop", "Sable Quist", uefi("Wren & Marlow", "Field 12", "F12", true, "Aster 6", Encryption.VOLUMES,
            KeyPlace.SAME_COMPUTER, "a text file in her documents")));

    static final List<StandInDisk> DISKS = List.of(
        new StandInDisk("contour-1", "contour-1", "CONTOUR", "disk 1, system", "Aldine N5", "7K-0331-CO", 133_291_008, 3752, "NVMe",
            Links.NVME * PACE),
        new StandInDisk("contour-2", "contour-2", "CONTOUR", "disk 2, mapping", "Halden L2", "22-HL-4096", 137_711_616, 14_526, "SATA",
            Links.SATA * PACE),
        new StandInDisk("datum-1", "datum-1", "DATUM", "disk 1, system", "Halden S2", "22-HS-0501", 133_291_008, 3752, "SATA",
            Links.SATA * PACE),
        new StandInDisk("datum-2", "datum-2", "DATUM", "disk 2, surveys", "Halden S8", "22-HS-2044", 464_776_704, 4304, "SATA",
            Links.SATA * PACE),
        new StandInDisk("gnomon", "gnomon", "GNOMON", "card", "Pike CF", "CF-0077-GN", 500_170_752, 1, "IDE", 30_000_000),
        new StandInDisk("isobar", "isobar", "ISOBAR", "system disk", "Aldine N2", "7K-0250-IS", 165_383_168, 1512, "NVMe",
            Links.NVME * PACE),
        new StandInDisk("ledger", "ledger", "LEDGER", "system disk", "Halden S2", "22-HS-0502", 103_670_784, 4824, "SATA",
            Links.SATA * PACE),
        new StandInDisk("meridian", "meridian", "MERIDIAN", "system disk", "Aldine N1T", "7K-0412-MD", 261_218_304, 3829, "NVMe",
            Links.NVME * PACE),
        new StandInDisk("plumb", "plumb", "PLUMB", "system disk", "Halden S1", "22-HS-0250", 82_691_584, 3024, "SATA", Links.SATA * PACE),
        new StandInDisk("theodolite", "theodolite", "THEODOLITE", "system disk", "Aldine N1", "7K-0121-TH", 119_081_472, 1008, "NVMe",
            Links.NVME * PACE),
        new StandInDisk("tripod", "tripod", "TRIPOD", "system disk", "Aldine N1", "7K-0120-TR", 79_387_648, 1512, "NVMe",
            Links.NVME * PACE));

    static final List<StandInDrive> DRIVES = List.of(
        new StandInDrive("peg-1", "PEG-1", "here, USB 3", true, 1_000_204_886_016L, 311_800_000_000L, 0, Links.USB_3 * PACE, "PG-1-1180"),
        new StandInDrive("peg-2", "PEG-2", "here, USB 3", true, 500_107_862_016L, 428_600_000_000L, 0, Links.USB_3 * PACE, "PG-2-1181"),
        new StandInDrive("peg-3", "PEG-3", "here, USB 2", true, 160_041_885_696L, 31_000_000_000L, 4_294_967_295L, Links.USB_2 * PACE,
            "PG-3-0007"),
        new StandInDrive("cairn", "CAIRN", "network", true, 6_001_175_126_016L, 4_544_453_747_800L, 0, Links.GIGABIT * PACE, "CAIRN"),
        new StandInDrive("outpost", "OUTPOST", "off site", false, 4_000_787_030_016L, 2_571_380_334_000L, 0, Links.USB_3 * PACE, "OP-0001"),
        new StandInDrive("shelf", "SHELF", "on DATUM disk 2", true, 2_000_398_934_016L, 700_000_000_000L, 0, Links.GIGABIT * PACE,
            "22-HS-2044"));

    static final List<PastNote> NOTES = List.of(new PastNote("peg-1", "weekly pair", "", "", true),
        new PastNote("peg-2", "weekly pair", "", "", true), new PastNote("peg-3", "", "", "37 sectors replaced since spring: worn", false),
        new PastNote("cairn", "", "network", "", false), new PastNote("shelf", "", "network", "", false),
        new PastNote("outpost", "", "", "", true));

    /**
     * Plans by the name of their file, and for how many days each has been in use; the field laptops' have been waiting for them to come
     * back.
     */
    static final Map<String, Integer> PLANS = new TreeMap<>(Map.ofEntries(Map.entry("contour-1", 0), Map.entry("contour-2", 0),
        Map.entry("datum-1", 0), Map.entry("datum-2", 0), Map.entry("gnomon", 0),
        Map.entry("isobar", 0), Map.entry("ledger", 0), Map.entry("meridian", 0), Map.entry("plumb", 0), Map.entry("theodolite", 20),
        Map.entry("tripod", 41)));

    private MarrowbySurveyOffice() {
    }
}
