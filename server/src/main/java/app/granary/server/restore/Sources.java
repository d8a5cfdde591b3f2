package app.granary.server.restore;

import app.granary.core.destination.Destination;
import app.granary.core.image.Lacks;
import app.granary.core.restore.Restorable;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.Links;
import app.granary.engine.host.Overwriting;
import app.granary.core.machine.Machine;
import app.granary.core.machine.Route;
import app.granary.core.target.TargetDisk;
import app.granary.engine.host.Devices;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.ImageStore;
import app.granary.server.home.Pace;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.image.Elsewhere;
import app.granary.server.image.Images;
import app.granary.server.problem.Refused;
import app.granary.server.served.ServedImages;
import app.granary.server.target.Targets;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;

/** What can be written onto a disk. */
@Component
class Sources {
    private final Images images;
    private final DisksOnRecord disks;
    private final Targets targets;
    private final ImageStore store;
    private final Devices devices;
    private final Pace pace;
    private final ServedImages served;
    private final Elsewhere elsewhere;
    private final Clock clock;

    Sources(Images images, DisksOnRecord disks, Targets targets, ImageStore store, Devices devices, Pace pace,
        ServedImages served, Elsewhere elsewhere, Clock clock) {
        this.served = served;
        this.elsewhere = elsewhere;
        this.pace = pace;
        this.store = store;
        this.devices = devices;
        this.images = images;
        this.disks = disks;
        this.targets = targets;
        this.clock = clock;
    }

    /**
     * @param servedId   of a virtual computer whose disk it is; null for an image or a disk
     * @param imageId    null for the disk as it is now
     * @param allSectors whether what is not in use of a disk is copied too
     */
    Source of(UUID servedId, UUID imageId, String diskId, boolean allSectors, Passphrase passphrase) throws IOException {
        return servedId != null ? computer(servedId) : imageId == null ? disk(diskId, allSectors) : image(imageId, passphrase);
    }

    /** What a virtual computer left of an image's disk, which is none of that image's any more, and open as long as it is there. */
    private Source computer(UUID servedId) throws IOException {
        ServedImages.Served computer = served.computer(servedId);
        Source image = described(computer.imageId());
        return new Source(new Overwriting.From.Changed(computer.at(), () -> served.changed(servedId)), Optional.empty(),
            image.imageName + ", as its virtual computer left it", clock.instant(), image.diskId, image.computer, image.disk,
                image.deviceId,
            image.device, image.serials, image.bytes, image.usedBytes, image.rateBytes, image.diskBytes, false, Machine.OFFICE);
    }

    /**
     * Of what is read: an image, or a disk as it is now.
     *
     * @param bytes     read from it
     * @param usedBytes written of it
     * @param rateBytes a second it is read at
     * @param diskBytes length of the disk it is, or holds
     * @param machine   which machine it is in
     */
    record Source(Overwriting.From from, Optional<UUID> imageId, String imageName, Instant madeAt, String diskId, String computer,
        String disk, String deviceId, String device, Set<String> serials, long bytes, long usedBytes, long rateBytes, long diskBytes,
        boolean encrypted, Machine machine) {
        /** Which way its bytes go to a target. */
        Route routeTo(TargetDisk target) {
            return Route.between(machine, target.machine());
        }
    }

    Source image(UUID imageId, Passphrase passphrase) throws IOException {
        Images.Shelved image = images.shelved(imageId);
        Lacks lacks = elsewhere.lacks(imageId);
        if (!Restorable.is(image.format() != Images.Format.UNSEEN, lacks, image.kept())) {
            throw new Refused(HttpStatus.CONFLICT, "other-format", "imageId",
                image.format() == Images.Format.UNSEEN ? image.name() + " is a line of a paper log; its files were not seen. Take them on "
                    + "under Add an image made elsewhere first."
                    : image.kept() ? image.name() + (lacks.equals(Lacks.UNTOLD) ? " was kept as found: nobody can tell what is in it. "
                        : " is an image of one partition, and no disk. ") + "Restore it with the tools that made it."
                    : image.name() + " was released. Take it back from the trash first.");
        }
        if (image.encrypted() && passphrase.isNone()) {
            throw new Refused(HttpStatus.UNPROCESSABLE_ENTITY, "locked", "passphrase",
                image.name() + " is encrypted. Enter its passphrase.");
        }
        return described(imageId, image, passphrase);
    }

    /** The same, also of one that cannot be restored now. */
    Source described(UUID imageId) throws IOException {
        return described(imageId, images.shelved(imageId), Passphrase.NONE);
    }

    private Source described(UUID imageId, Images.Shelved image, Passphrase passphrase) throws IOException {
        Instant madeAt = images.standings().stream().filter(each -> each.id().equals(imageId)).findFirst().map(Images.Standings::madeAt)
            .orElse(Instant.EPOCH);
        Optional<ElsewhereImage> other = elsewhere.expected(imageId);
        Overwriting.From from = other.isPresent() ? new Overwriting.From.Elsewhere(image.destinationId(), other.get())
            : new Overwriting.From.Image(images.at(imageId, passphrase));
        return new Source(from, Optional.of(imageId), image.name(), madeAt,
            image.diskId(), image.computer(), image.disk(), image.destinationId(), image.destination(),
            targets.serialsOf(image.destinationId()), image.storedBytes(), Math.max(image.storedBytes(), images.usedBytesOf(imageId)),
            rate(image.destinationId()), images.rawBytesOf(imageId), image.encrypted(),
            drive(image.destinationId()).map(Destination::machine).orElse(Machine.OFFICE));
    }

    private Source disk(String diskId, boolean allSectors) throws IOException {
        DisksOnRecord.DiskOnRecord disk = disks.find(diskId).orElseThrow(() -> Refused.notFound("disk"));
        long bytes = allSectors ? disk.identity().sizeBytes() : disk.toReadBytes();
        return new Source(new Overwriting.From.Disk(diskId, allSectors), Optional.empty(), disk.computer() + " " + disk.name(),
            clock.instant(), diskId,
            disk.computer(), disk.name(), "disk-" + diskId, disk.name(), Set.of(disk.identity().serial()),
            bytes, bytes, Math.round(Links.SATA * Math.max(1, pace.times())), disk.identity().sizeBytes(), false,
            machineOf(diskId));
    }

    private long rate(String destinationId) throws IOException {
        return drive(destinationId).map(Destination::writeRateBytes).orElse(Links.USB_3);
    }

    private Optional<Destination> drive(String id) throws IOException {
        return store.destinations().stream().filter(each -> each.id().equals(id)).findFirst();
    }

    /** Of a disk that is not attached, the office's own. */
    private Machine machineOf(String diskId) throws IOException {
        return devices.computers().stream().filter(each -> each.disks().stream().anyMatch(disk -> disk.id().equals(diskId))).findFirst()
            .map(HostComputer::machine).orElse(Machine.OFFICE);
    }
}
