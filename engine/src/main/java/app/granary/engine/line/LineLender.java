package app.granary.engine.line;

import app.granary.engine.host.ImageAt;
import app.granary.engine.host.Lender;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.remote.RemoteFiles;
import java.io.IOException;
import java.util.function.Consumer;
import java.util.function.Function;

/**
 * The drives of a computer somewhere else, lent by it.
 *
 * @param machine  its name
 * @param files    what is lent under a name
 * @param takeBack of a name, now or when the line is taken up anew
 */
record LineLender(String machine, LineLending line, Function<String, RemoteFiles> files, Consumer<String> takeBack) implements Lender {
    @Override
    public Loan lend(ImageAt image, Use use) throws IOException {
        return new Lending(this, line.lend(new ImageAt(image.destinationId(), image.folder(), image.name(), Passphrase.NONE), use));
    }

    @Override
    public Loan lendRaw(String rawFileId) throws IOException {
        return new Lending(this, line.lendRaw(rawFileId));
    }

    /** Until it is taken back. */
    private record Lending(LineLender by, LineLending.Told told) implements Loan {
        @Override
        public RemoteFiles files() {
            return by.files.apply(told.id());
        }

        @Override
        public String images() {
            return told.images();
        }

        @Override
        public String location() {
            return told.location() + " in " + by.machine;
        }

        @Override
        public void close() {
            by.takeBack.accept(told.id());
        }
    }
}
