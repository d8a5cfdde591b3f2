package app.granary.standins;

import app.granary.core.target.TargetDisk;
import app.granary.engine.host.Links;
import java.util.List;

/**
 * A made-up disk that can be overwritten.
 *
 * @param id     stable within the office
 * @param serial invented
 * @param where  in words
 */
record StandInTarget(String id, String name, String model, String serial, long sizeBytes, TargetDisk.Kind kind, String bus, String where) {
    private static final long GB = 1_000_000_000L;

    /** Spares, sticks, and the blank disks of four new field computers of one kind. */
    static final List<StandInTarget> ALL = List.of(
        new StandInTarget("spare-1", "Spare 1", "Aldine N1", "7K-0198-SP", 120_034_123_776L, TargetDisk.Kind.SPARE, "USB 3",
            "in the dock on the bench"),
        new StandInTarget("spare-2", "Spare 2", "Halden S2", "22-HS-0560", 500_107_862_016L, TargetDisk.Kind.SPARE, "USB 3",
            "in the dock on the bench"),
        new StandInTarget("spare-3", "Spare 3", "Aldine N0", "7K-0064-SM", 64_023_257_088L, TargetDisk.Kind.SPARE, "USB 3",
            "in the drawer"),
        new StandInTarget("key-a", "KEY-A", "Tansy 16", "TS-16-000A", 15_728_640L, TargetDisk.Kind.STICK, "USB 3", "on the bench"),
        new StandInTarget("key-c", "KEY-C", "Tansy 16", "TS-16-000C", 15_728_640L, TargetDisk.Kind.STICK, "USB 3", "on the bench"),
        new StandInTarget("rod-1", "ROD-1 system disk", "Aldine N2", "7K-0251-R1", 250 * GB + 59_350_016, TargetDisk.Kind.FIXED, "NVMe",
            "new field computer"),
        new StandInTarget("rod-2", "ROD-2 system disk", "Aldine N2", "7K-0252-R2", 250 * GB + 59_350_016, TargetDisk.Kind.FIXED, "NVMe",
            "new field computer"),
        new StandInTarget("rod-3", "ROD-3 system disk", "Aldine N2", "7K-0253-R3", 250 * GB + 59_350_016, TargetDisk.Kind.FIXED, "NVMe",
            "new field computer"),
        new StandInTarget("rod-4", "ROD-4 system disk", "Aldine N0", "7K-0054-R4", 64_023_257_088L, TargetDisk.Kind.FIXED, "NVMe",
            "new field computer"));

    static StandInTarget of(String id) {
        return ALL.stream().filter(each -> each.id.equals(id)).findFirst().orElseThrow();
    }

    long rate() {
        return (bus.equals("NVMe") ? Links.NVME : Links.USB_3) * MarrowbySurveyOffice.PACE;
    }
}
