package app.granary.engine.hosts;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.engine.host.BorrowedFolders;
import app.granary.engine.host.Host;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.Lender;
import app.granary.engine.hosts.Whereabouts.Holder;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.util.Optional;

/**
 * What lies on one machine's drive, put at the hand of another for as long as one piece of work takes. The bytes go by way of the office,
 * which every machine speaks with.
 */
final class Reach {
    private final Host home;
    private final Serving serving;

    Reach(Host home, Serving serving) {
        this.home = home;
        this.serving = serving;
    }

    /** What is done with an image under the name the other machine knows its folder by. */
    interface Work<T> {
        /** @param location where it lies, for people; an empty string when both are one machine */
        T with(ImageAt there, String location) throws IOException;
    }

    /** What is done with something under the name the other machine knows it by. */
    interface Named<T> {
        T with(String id) throws IOException;
    }

    /** With an image as the worker's machine knows it: its own, or lent to it. */
    <T> T at(Holder worker, Holder drive, ImageAt image, Lender.Use use, Watch watch, Work<T> work) throws IOException {
        if (worker.is(drive)) {
            return work.with(image, "");
        }
        Lender.Loan loan = lender(drive, worker).lend(image, use);
        return lent(loan, drive, worker, watch, id -> work.with(new ImageAt(id, image.name(), image.passphrase()), loan.location()));
    }

    /** With a file of the office's that can be written onto a stick. */
    <T> T raw(Holder worker, String rawFileId, Watch watch, Named<T> work) throws IOException {
        if (worker.isHome()) {
            return work.with(rawFileId);
        }
        Holder office = new Holder(home, Optional.empty());
        return lent(lender(office, worker).lendRaw(rawFileId), office, worker, watch, id -> work.with(id + rawFileId));
    }

    private <T> T lent(Lender.Loan loan, Holder drive, Holder worker, Watch watch, Named<T> work) throws IOException {
        if (worker.isHome()) {
            try (loan; BorrowedFolders.Borrowed borrowed = home.borrowed().orElseThrow().borrow(loan, Whereabouts.name(drive), watch)) {
                return work.with(borrowed.id());
            }
        }
        try (Serving.Served served = serving.serve(worker.member().orElseThrow(), loan)) {
            return work.with(served.destinationId());
        }
    }

    /** Asked before anything is lent, so that nothing stays lent that cannot be used. */
    private Lender lender(Holder drive, Holder to) throws IOException {
        if (to.isHome() && home.borrowed().isEmpty()) {
            throw madeUp(home.name() + " is made up, and uses no drives of " + Whereabouts.name(drive) + ". Choose one of its own.");
        }
        return drive.host().lender().orElseThrow(() -> madeUp("The drives of " + Whereabouts.name(drive) + " are made up, and are not used "
            + "from " + Whereabouts.name(to) + "."));
    }

    private static FaultException madeUp(String sentence) {
        return Fault.of(Fault.Kind.UNSUPPORTED, "machine", sentence).asException();
    }
}
