package app.granary.cli;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.image.ImageName;
import app.granary.engine.capture.Capture;
import app.granary.engine.capture.CaptureRequest;
import app.granary.engine.codec.Codec;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.OptionalLong;

/** A program for {@link GranaryTest}: captures a disk while another file takes all the room of the destination. */
public final class FillingCapture {
    private FillingCapture() {
    }

    public static void main(String[] arguments) throws IOException {
        Path folder = Path.of(arguments[1]);
        Watch filling = new Watch() {
            @Override
            public void advanced(Progress progress) {
                try (OutputStream other = Files.newOutputStream(folder.resolve("other"))) {
                    while (true) {
                        other.write(new byte[4096]);
                    }
                } catch (IOException full) {
                    if (!String.valueOf(full.getMessage()).contains("No space")) {
                        throw new UncheckedIOException(full);
                    }
                }
            }

            @Override
            public boolean stopRequested() {
                return false;
            }
        };
        try (RawSource source = RawSource.open(Path.of(arguments[0]))) {
            Capture.run(source, DiskSurvey.of(source, SurveyChoice.ALL_BLOCKS),
                new CaptureRequest(ImageName.parse("x"), Codec.NONE, 0, OptionalLong.empty(), Passphrase.NONE,
                    new DiskIdentity("", "", source.sizeBytes()), true),
                folder, Clock.systemUTC(), filling);
        } catch (FaultException refused) {
            System.out.println(refused.fault().kind() + " " + refused.getMessage());
        }
    }
}
