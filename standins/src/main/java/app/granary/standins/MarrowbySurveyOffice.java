package app.granary.standins;

import app.granary.engine.site.Links;
import java.util.List;

/** Who and what there is in the made-up office. Every name, model and serial is invented. */
final class MarrowbySurveyOffice {
    static final String NAME = "Marrowby Survey Office";
    /** How many times as fast as a real one the office's links work, so that a run can be watched. */
    static final int PACE = 40;

    /** A computer without its disks. */
    record Desk(String name, String role, String owner) {
    }

    static final List<Desk> DESKS = List.of(
        new Desk("DATUM", "file server", "everyone"),
        new Desk("GNOMON", "plotter controller", "the drawing room"),
        new Desk("MERIDIAN", "drafting workstation", "Orla Venn"));

    static final List<StandInDisk> DISKS = List.of(
        new StandInDisk("datum-1", "datum-1", "DATUM", "disk 1, system", "Halden S2", "22-HS-0501", 133_291_008, 3752, "SATA", Links.SATA * PACE),
        new StandInDisk("datum-2", "datum-2", "DATUM", "disk 2, surveys", "Halden S8", "22-HS-2044", 464_776_704, 4304, "SATA", Links.SATA * PACE),
        new StandInDisk("gnomon", "gnomon", "GNOMON", "card", "Pike CF", "CF-0077-GN", 500_170_752, 1, "IDE", 30_000_000),
        new StandInDisk("meridian", "meridian", "MERIDIAN", "system disk", "Aldine N1T", "7K-0412-MD", 261_218_304, 3829, "NVMe", Links.NVME * PACE));

    static final List<StandInDrive> DRIVES = List.of(
        new StandInDrive("peg-1", "PEG-1", "here, USB 3", true, 1_000_204_886_016L, 311_800_000_000L, 0, Links.USB_3 * PACE, "PG-1-1180"),
        new StandInDrive("peg-2", "PEG-2", "here, USB 3", true, 500_107_862_016L, 428_600_000_000L, 0, Links.USB_3 * PACE, "PG-2-1181"),
        new StandInDrive("peg-3", "PEG-3", "here, USB 2", true, 160_041_885_696L, 31_000_000_000L, 4_294_967_295L, Links.USB_2 * PACE, "PG-3-0007"),
        new StandInDrive("cairn", "CAIRN", "network", true, 2_000_398_934_016L, 982_000_000_000L, 0, Links.GIGABIT * PACE, "CAIRN"),
        new StandInDrive("shelf", "SHELF", "on DATUM disk 2", true, 2_000_398_934_016L, 700_000_000_000L, 0, Links.GIGABIT * PACE, "22-HS-2044"));

    private MarrowbySurveyOffice() {
    }
}
