package app.granary.engine.hosts;

import app.granary.core.fault.Fault;
import app.granary.engine.host.Host;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.LocalFolders;
import app.granary.engine.remote.ServedFolder;
import java.io.IOException;
import java.nio.file.Files;
import java.util.Optional;

/** Images of the office's machine, lent to a computer that joined for as long as one piece of work takes. */
final class Reach {
    private final Host home;
    private final Serving serving;

    Reach(Host home, Serving serving) {
        this.home = home;
        this.serving = serving;
    }

    /** What is done with an image under the name the other machine knows its folder by. */
    interface Work<T> {
        T with(ImageAt there) throws IOException;
    }

    /** What for. */
    enum Lending {
        TO_READ,
        TO_WRITE
    }

    <T> T lend(Member to, ImageAt image, Lending lending, Work<T> work) throws IOException {
        LocalFolders folders = home.folders().orElseThrow(() -> Fault.of(Fault.Kind.UNSUPPORTED, home.name(),
            "The drives here are made up, and are not used from " + to.name() + ".").asException());
        LocalFolders.Folder folder = folders.folder(image.destinationId());
        Optional<ServedFolder.Gate> writing = Optional.empty();
        if (lending == Lending.TO_WRITE) {
            Files.createDirectories(folder.imagesPath());
            folders.requireRoom(folder);
            writing = Optional.of(() -> folders.requireRoom(folder));
        }
        ServedFolder lent = new ServedFolder(folder.root(), image.folder().isEmpty() ? folder.images() : image.folder(), image.name(),
            writing);
        try (Serving.Served served = serving.serve(to, lent)) {
            return work.with(new ImageAt(served.destinationId(), image.name(), image.passphrase()));
        }
    }

    /** Where an image lies here, for people. */
    String location(ImageAt image) throws IOException {
        LocalFolders.Folder folder = home.folders().orElseThrow().folder(image.destinationId());
        return folder.imagesPath().resolve(image.name()).toString();
    }
}
