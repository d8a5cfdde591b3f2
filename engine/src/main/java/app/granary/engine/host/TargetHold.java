package app.granary.engine.host;

import app.granary.core.fault.Fault;
import app.granary.core.target.OverwriteRules;
import app.granary.core.target.TargetLook;
import java.io.IOException;
import java.util.List;

/**
 * A target that is the one a person confirmed, held until it is written: nobody can mount it between the last look and the first byte. The
 * one way to a target's first byte on a machine.
 *
 * @param <D> a disk of that machine
 */
final class TargetHold<D> implements AutoCloseable {
    private final D disk;
    private final Hold hold;

    /** Given back when the work has ended. */
    interface Hold {
        void close();
    }

    /** What can be asked of a machine's disks. */
    interface Machine<D> {
        /** Those that are there now by that id. */
        List<D> found(String id) throws IOException;

        /** As it could be overwritten, with what it holds. */
        TargetLook look(D disk);

        /** Whether both are the same device in the same attachment. */
        boolean same(D one, D other);

        /** @throws app.granary.core.fault.FaultException when anything else holds it, or that cannot be told */
        Hold hold(D disk) throws IOException;
    }

    private TargetHold(D disk, Hold hold) {
        this.disk = disk;
        this.hold = hold;
    }

    /**
     * Looked at before it is held, since a held device looks in use, and once more after.
     *
     * @throws app.granary.core.fault.FaultException when what was confirmed is not so any more; nothing was written then
     */
    static <D> TargetHold<D> of(Machine<D> machine, Overwriting.Confirmed confirmed) throws IOException {
        D before = find(machine, confirmed);
        OverwriteWork.requireIdle(machine.look(before).disk());
        OverwriteWork.requireAsConfirmed(machine.look(before), confirmed);
        Hold hold = machine.hold(before);
        try {
            D now = find(machine, confirmed);
            OverwriteWork.requireAsConfirmed(machine.look(now), confirmed);
            if (!machine.same(now, before)) {
                throw Fault.of(Fault.Kind.FORBIDDEN, machine.look(before).disk().name(), machine.look(before).disk().inFull()
                    + " was exchanged at this moment. Nothing was written. Look at the disk, and confirm it again.").asException();
            }
            return new TargetHold<>(now, hold);
        } catch (IOException | RuntimeException failed) {
            hold.close();
            throw failed;
        }
    }

    /** Ids are unique among what is there; two with one id would be two that cannot be told apart, and then neither is meant. */
    private static <D> D find(Machine<D> machine, Overwriting.Confirmed confirmed) throws IOException {
        List<D> meant = machine.found(confirmed.targetId()).stream().filter(each -> machine.look(each).disk().attached()).toList();
        if (meant.size() != 1) {
            throw Fault.of(Fault.Kind.NOT_RECOGNISED, confirmed.targetId(), OverwriteRules.gone(confirmed.identity())).asException();
        }
        return meant.get(0);
    }

    D disk() {
        return disk;
    }

    @Override
    public void close() {
        hold.close();
    }
}
