package app.granary.server.queue;

import app.granary.core.claim.Claims;
import app.granary.core.claim.DeviceClaim;
import app.granary.server.problem.Refused;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.function.Function;
import org.springframework.http.HttpStatus;

/** What may not be asked for while other runs wait or are under way. */
final class RunConflicts {
    private final Orders orders;
    private final Claims<UUID> claims;

    RunConflicts(Orders orders, Claims<UUID> claims) {
        this.orders = orders;
        this.claims = claims;
    }

    /** One that waits for its night does not stand in the way. */
    void requireOnce(Run asked, List<Run> open) {
        boolean ofNight = asked.night() != null;
        if (!ofNight
            && open.stream().anyMatch(run -> (run.night() == null || run.state() == Run.State.RUNNING) && orders.same(asked, run))) {
            throw new Refused(HttpStatus.CONFLICT, "busy", "diskId", orders.twice(asked));
        }
    }

    /**
     * @param waiting  those that have not begun
     * @param underWay a run by its id, of those that hold devices
     * @throws Refused when a device that is to be overwritten is held by a run, or another one waits to overwrite it
     */
    void requireFree(List<DeviceClaim> asked, List<RunRow> waiting, Function<UUID, Run> underWay) {
        List<DeviceClaim> overwritten = asked.stream().filter(claim -> claim.use() == DeviceClaim.Use.WRITE).toList();
        for (DeviceClaim each : overwritten) {
            Optional<Claims.Blocked<UUID>> held = claims.blocked(List.of(each));
            if (held.isPresent()) {
                Run by = underWay.apply(held.get().by());
                throw new Refused(HttpStatus.CONFLICT, "busy", "targetId",
                    each.device().name() + (writes(by, each) ? " is being overwritten already"
                        : " is used by " + by.imageName() + " now")
                        + ". See Runs; wait until that has ended, stop it, or choose another disk.");
            }
            if (waiting.stream().anyMatch(run -> run.kind().overwrites() && writes(run, each))) {
                throw new Refused(HttpStatus.CONFLICT, "busy", "targetId", each.device().name()
                    + " is being overwritten already, or waits to be. See Runs; stop that first, or choose another disk.");
            }
        }
    }

    private boolean writes(Run run, DeviceClaim claim) {
        return orders.claims(run).stream()
            .anyMatch(each -> each.use() == DeviceClaim.Use.WRITE && each.device().key().equals(claim.device().key()));
    }
}
