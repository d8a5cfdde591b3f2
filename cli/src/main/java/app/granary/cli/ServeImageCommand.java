package app.granary.cli;

import app.granary.core.fault.Fault;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageSource;
import app.granary.engine.nbd.NbdServer;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import java.util.concurrent.CountDownLatch;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Reads the image as it is asked for; whether it is sound is what {@code verify} reads for. */
@Command(name = "serve-image", mixinStandardHelpOptions = true,
    description = "Serves an image as a disk that is only read, by the NBD protocol, on this machine, until it is ended with Ctrl+C. "
        + "qemu-img, qemu-system, nbd-client and nbdfuse take the address it prints.")
final class ServeImageCommand implements Callable<Integer> {
    private static final int MOST_PORT = 65_535;

    @Parameters(index = "0", paramLabel = "BAG", description = "the image's folder")
    Path bag;
    @Option(names = "--socket", paramLabel = "PATH", description = "a Unix socket to be made there, for this account alone")
    Path socket;
    @Option(names = "--port", paramLabel = "N",
        description = "on loopback, where every account of this machine can read it; one that is free without either")
    Integer port;
    @Mixin
    PassphraseOption secret;
    @Option(names = "--json", description = "print JSON")
    boolean json;
    @Spec
    CommandSpec spec;

    @Override
    public Integer call() throws IOException {
        if (socket != null && port != null) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, "--port", "Name either a socket or a port, not both.").asException();
        }
        if (port != null && (port < 1 || port > MOST_PORT)) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, "--port", port + " is no port. Name one from 1 to " + MOST_PORT + ".").asException();
        }
        try (ImageSource image = ImageSource.forMany(Bag.open(bag, secret.passphrase()));
            NbdServer server = socket != null ? NbdServer.onSocket(socket, image, image.name())
                : NbdServer.onLoopback(port == null ? 0 : port, image, image.name())) {
            // a socket that stays behind would keep its path from the next one
            Runtime.getRuntime().addShutdownHook(new Thread(() -> closed(server)));
            PrintWriter out = spec.commandLine().getOut();
            if (json) {
                Printed.json(out, fields -> {
                    fields.writeStringField("uri", server.uri());
                    fields.writeNumberField("sizeBytes", image.sizeBytes());
                });
            } else {
                Printed.row(out, "image", image.name() + ", " + Printed.size(image.sizeBytes()) + ", only read");
                Printed.row(out, "address", server.uri());
                Printed.row(out, "", "Ctrl+C ends it.");
            }
            out.flush();
            new CountDownLatch(1).await();
        } catch (InterruptedException ended) {
            Thread.currentThread().interrupt();
        }
        return 0;
    }

    private static void closed(NbdServer server) {
        try {
            server.close();
        } catch (IOException gone) {
            // it ends with the program all the same
        }
    }
}
