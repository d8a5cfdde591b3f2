package app.granary.server.computer;

import app.granary.core.destination.Destination;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.plan.Afterwards;
import app.granary.core.preflight.Power;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.copy.Repair;
import app.granary.engine.elsewhere.ElsewhereCheck;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.elsewhere.ElsewhereScan;
import app.granary.engine.progress.Watch;
import app.granary.engine.site.Shelf;
import app.granary.engine.sample.SampleGoal;
import app.granary.engine.site.ImageAt;
import app.granary.engine.site.ImageFacts;
import app.granary.engine.site.Site;
import app.granary.engine.site.SiteComputer;
import app.granary.engine.site.SiteEstimate;
import app.granary.engine.site.SiteImage;
import app.granary.engine.site.SiteUnfinished;
import app.granary.engine.site.Storage;
import app.granary.engine.site.Workbench;
import java.io.IOException;
import java.util.List;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.context.annotation.Primary;
import org.springframework.stereotype.Component;

/**
 * The devices under the names the office's records have for them. Every disk is looked up at the moment it is used, so that one that cannot
 * be told from another is neither read nor written under its name.
 */
@Component
@Primary
class OfficeSite implements Site {
    private final Site devices;
    private final DisksAtHand disks;

    OfficeSite(@Qualifier("devices") Site devices, DisksAtHand disks) {
        this.devices = devices;
        this.disks = disks;
    }

    @Override
    public List<SiteComputer> computers() throws IOException {
        return disks.look().computers();
    }

    @Override
    public DiskSurvey survey(String diskId, SurveyChoice choice) throws IOException {
        return devices.survey(disks.siteId(diskId), choice);
    }

    @Override
    public String inUse(String diskId) throws IOException {
        return devices.inUse(disks.siteId(diskId));
    }

    @Override
    public SiteEstimate estimate(String diskId, Storage storage, SampleGoal goal, Watch watch) throws IOException {
        return devices.estimate(disks.siteId(diskId), storage, goal, watch);
    }

    @Override
    public SiteImage capture(String diskId, String destinationId, String name, Storage storage, Watch watch) throws IOException {
        return devices.capture(disks.siteId(diskId), destinationId, name, storage, watch);
    }

    @Override
    public SiteImage carryOn(String diskId, ImageAt unfinished, Watch watch) throws IOException {
        return devices.carryOn(disks.siteId(diskId), unfinished, watch);
    }

    @Override
    public void afterwards(String diskId, Afterwards action) throws IOException {
        devices.afterwards(disks.siteId(diskId), action);
    }

    @Override
    public String machine(String diskId) throws IOException {
        return devices.machine(disks.siteId(diskId));
    }

    @Override
    public Workbench workbench() {
        return new OfficeWorkbench(devices.workbench(), disks);
    }

    // --- what is the same under any name ----------------------------------------------------------------------------------------------

    @Override
    public String name() {
        return devices.name();
    }

    @Override
    public String simulation() {
        return devices.simulation();
    }

    @Override
    public Power power() throws IOException {
        return devices.power();
    }

    @Override
    public List<Destination> destinations() throws IOException {
        return devices.destinations();
    }

    @Override
    public List<SiteUnfinished> unfinished(String destinationId) throws IOException {
        return devices.unfinished(destinationId);
    }

    @Override
    public void sweep() throws IOException {
        devices.sweep();
    }

    @Override
    public void discard(String destinationId, String name) throws IOException {
        devices.discard(destinationId, name);
    }

    @Override
    public CheckOutcome check(ImageAt image, ProofLevel level, Watch watch) throws IOException {
        return devices.check(image, level, watch);
    }

    @Override
    public ImageFacts facts(ImageAt image) throws IOException {
        return devices.facts(image);
    }

    @Override
    public CheckOutcome copy(ImageAt image, String toDestinationId, Watch watch) throws IOException {
        return devices.copy(image, toDestinationId, watch);
    }

    @Override
    public Repair.Mended mend(ImageAt damaged, ImageAt sound, ProofLevel level, Watch watch) throws IOException {
        return devices.mend(damaged, sound, level, watch);
    }

    @Override
    public ElsewhereScan.Found elsewhere(String destinationId, String folder, Watch watch) throws IOException {
        return devices.elsewhere(destinationId, folder, watch);
    }

    @Override
    public ElsewhereCheck.Result check(String destinationId, ElsewhereImage image, ProofLevel level, Watch watch) throws IOException {
        return devices.check(destinationId, image, level, watch);
    }

    @Override
    public Shelf shelf(String destinationId) throws IOException {
        return devices.shelf(destinationId);
    }
}
