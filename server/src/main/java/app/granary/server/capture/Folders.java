package app.granary.server.capture;

import app.granary.core.plan.FolderPattern;
import app.granary.server.computer.ComputersOnRecord;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.office.OfficeChoices;
import app.granary.server.office.OfficeDays;
import java.time.Clock;
import java.time.ZoneId;
import java.util.Optional;
import org.springframework.stereotype.Service;

/** In which folder of its drive an image lies: as its plan says, or as the office chose. */
@Service
public class Folders {
    private final DisksOnRecord disks;
    private final ComputersOnRecord computers;
    private final OfficeChoices office;
    private final OfficeDays days;
    private final Clock clock;

    Folders(DisksOnRecord disks, ComputersOnRecord computers, OfficeChoices office, OfficeDays days, Clock clock) {
        this.disks = disks;
        this.computers = computers;
        this.office = office;
        this.days = days;
        this.clock = clock;
    }

    /**
     * @param own of a plan, or of one image; none for the office's choice
     * @return an empty string for Granary's own folder, also for a disk that is not on record
     */
    public String of(FolderPattern own, String diskId) {
        FolderPattern pattern = own.isNone() ? office.folder() : own;
        return pattern.isNone() ? "" : disks.find(diskId).map(disk -> pattern.folder(words(disk))).orElse("");
    }

    /** @param folder of the disk, or of the first on record when none is named; an empty string when there is no disk */
    record Example(String sentence, String folder) {
    }

    Example example(FolderPattern own, Optional<String> diskId) {
        FolderPattern pattern = own.isNone() ? office.folder() : own;
        Optional<DisksOnRecord.DiskOnRecord> disk = diskId.isPresent() ? disks.find(diskId.get()) : disks.all().stream().findFirst();
        return new Example(pattern.sentence(), disk.map(each -> pattern.folder(words(each))).orElse(""));
    }

    private FolderPattern.Words words(DisksOnRecord.DiskOnRecord disk) {
        ZoneId zone = days.days().calendar().zone();
        return computers.all().stream().filter(computer -> computer.id().equals(disk.computerId())).findFirst()
            .map(computer -> new FolderPattern.Words(computer.name(), computer.facts().maker(), computer.facts().model(),
                computer.facts().operatingSystem(), disk.name(), clock.instant(), zone))
            .orElse(new FolderPattern.Words(disk.computer(), "", "", "", disk.name(), clock.instant(), zone));
    }
}
