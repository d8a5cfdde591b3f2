package app.granary.server.target;

import app.granary.core.claim.DeviceClaim;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.measure.Sizes;
import app.granary.core.target.Preparation;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.engine.site.Site;
import app.granary.engine.site.Workbench;
import app.granary.server.claim.OfficeDevices;
import app.granary.server.run.OtherRuns;
import app.granary.server.run.OtherWork;
import java.io.IOException;
import java.security.SecureRandom;
import java.sql.Timestamp;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Drives that are to be made ready, from being asked for to being done. */
@Component
class DrivePreparations implements OtherWork {
    private final JdbcClient database;
    private final Site site;
    private final OfficeDevices devices;
    private final Targets targets;

    DrivePreparations(JdbcClient database, Site site, OfficeDevices devices, Targets targets) {
        this.targets = targets;
        this.database = database;
        this.site = site;
        this.devices = devices;
    }

    void keep(UUID runId, Workbench.Confirmed target, Preparation how, Instant at) {
        database.sql("insert into drive_preparation (run_id, target_id, target_model, target_serial, target_bytes, scheme, file_system, name, rescue_bytes, asked_at, target_held) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)").params(runId, target.targetId(),
            target.identity().model(), target.identity().serial(), target.identity().sizeBytes(), how.scheme().name(), how.fileSystem().name(), how.name(), how.rescueBytes(),
            Timestamp.from(at), String.join("\n", target.holds())).update();
    }

    private record Asked(Workbench.Confirmed target, Preparation how) {
    }

    @Override
    public Set<OtherRuns.Kind> kinds() {
        return Set.of(OtherRuns.Kind.PREPARE);
    }

    @Override
    public String perform(UUID runId, Passphrase none, Watch watch) throws IOException {
        Asked asked = asked(runId);
        targets.requireStillFree(asked.target, Set.of());
        site.workbench().prepare(asked.how, asked.target, new SecureRandom(), watch);
        return asked.how.name() + " is ready: a new " + asked.how.scheme() + (asked.how.rescueBytes() > 0 ? ", a rescue partition of " + Sizes.decimal(asked.how.rescueBytes()) : "") + " and an " + asked.how.fileSystem().word()
            + " store on the drive with serial " + asked.target.identity().serial() + ". Attach it as a destination, and say where it lies.";
    }

    private Asked asked(UUID runId) {
        return database.sql("select * from drive_preparation where run_id = ?").param(runId).query((row, number) -> new Asked(
            new Workbench.Confirmed(row.getString("target_id"), new DiskIdentity(row.getString("target_model"),
                row.getString("target_serial"), row.getLong("target_bytes")),
                row.getString("target_held").lines().toList()),
            new Preparation(Preparation.Scheme.valueOf(row.getString("scheme")),
                Preparation.StoreFileSystem.valueOf(row.getString("file_system")), row.getString("name"), row.getLong("rescue_bytes"))))
                    .single();
    }

    DeviceClaim claim(Workbench.Confirmed target, String name) {
        return devices.overwriting(target, name);
    }

    @Override
    public List<DeviceClaim> claims(UUID runId) {
        Asked asked = asked(runId);
        return List.of(claim(asked.target, asked.how.name()));
    }

    @Override
    public void ended(UUID runId, boolean done, String sentence) {
        // the run itself says how it went
    }
}
