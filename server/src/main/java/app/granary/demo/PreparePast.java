package app.granary.demo;

import app.granary.server.home.StartCommand;
import app.granary.standins.SimulatedOffice;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.Clock;

/** Captures the made-up office's disks once, when it is built, so that its start need not. */
public class PreparePast implements StartCommand {
    @Override
    public boolean is(String[] args) {
        return args.length == 3 && args[0].equals("prepare-past");
    }

    @Override
    public void run(String[] args) {
        try {
            SimulatedOffice.preparePast(Path.of(args[1]), Path.of(args[2]), Clock.systemUTC());
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }
}
