package app.granary.server.run;

import app.granary.core.claim.DeviceClaim;
import app.granary.core.proof.ProofLevel;
import app.granary.server.claim.OfficeDevices;
import app.granary.server.image.Images;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;

/** Every device a run touches. */
@Component
class RunDevices {
    private final OfficeDevices office;
    private final Images images;
    private final RunWork work;

    RunDevices(OfficeDevices office, Images images, RunWork work) {
        this.office = office;
        this.images = images;
        this.work = work;
    }

    List<DeviceClaim> of(Run run) {
        List<DeviceClaim> out = new ArrayList<>();
        switch (run.kind()) {
            case CAPTURE -> {
                out.addAll(office.reading(run.diskId(), run.subject()));
                out.addAll(office.storing(run.destinationId(), run.destination()));
            }
            case CHECK -> {
                out.addAll(office.storing(run.destinationId(), run.destination()));
                if (work.order(run).proofLevel().includes(ProofLevel.REHEARSED)) {
                    out.add(office.scratch());
                }
            }
            case COPY, REPAIR -> {
                String other = work.order(run).otherId();
                out.addAll(office.storing(run.destinationId(), run.destination()));
                out.addAll(office.storing(other, name(other)));
            }
            case RESTORE, SPARE, STICK, PREPARE, REHEARSAL -> out.addAll(work.claims(run));
        }
        return out;
    }

    private String name(String destinationId) {
        try {
            return images.destinationName(destinationId);
        } catch (IOException cannotTell) {
            return destinationId;
        }
    }
}
