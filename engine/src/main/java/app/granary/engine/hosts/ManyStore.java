package app.granary.engine.hosts;

import app.granary.core.destination.Destination;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.elsewhere.ElsewhereScan;
import app.granary.engine.host.HostUnfinished;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.ImageFacts;
import app.granary.engine.host.ImageStore;
import app.granary.engine.host.Shelf;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** The destinations of all machines: a drive plugged into a computer that joined is told as in that computer. */
final class ManyStore implements ImageStore {
    private final Whereabouts whereabouts;

    ManyStore(Whereabouts whereabouts) {
        this.whereabouts = whereabouts;
    }

    private ImageStore of(String destinationId) throws IOException {
        return whereabouts.ofDestination(destinationId).host().store();
    }

    @Override
    public List<Destination> destinations() throws IOException {
        List<Destination> out = new ArrayList<>();
        for (Whereabouts.Holder machine : whereabouts.all()) {
            for (Destination each : machine.host().store().destinations()) {
                out.add(machine.isHome() ? each : each.in(machine.place()));
            }
        }
        out.sort(Comparator.comparing(Destination::name));
        return out;
    }

    @Override
    public Shelf shelf(String destinationId) throws IOException {
        return of(destinationId).shelf(destinationId);
    }

    @Override
    public ImageFacts facts(ImageAt image) throws IOException {
        return of(image.destinationId()).facts(image);
    }

    @Override
    public List<HostUnfinished> unfinished(String destinationId) throws IOException {
        return of(destinationId).unfinished(destinationId);
    }

    @Override
    public void discard(String destinationId, String name) throws IOException {
        of(destinationId).discard(destinationId, name);
    }

    @Override
    public ElsewhereImage kept(String destinationId, String folder, String name) throws IOException {
        return of(destinationId).kept(destinationId, folder, name);
    }

    @Override
    public ElsewhereScan.Found elsewhere(String destinationId, String folder, Watch watch) throws IOException {
        return of(destinationId).elsewhere(destinationId, folder, watch);
    }
}
