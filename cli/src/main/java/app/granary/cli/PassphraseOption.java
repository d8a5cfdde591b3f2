package app.granary.cli;

import app.granary.core.fault.Fault;
import app.granary.engine.openpgp.Passphrase;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.stream.Stream;
import picocli.CommandLine.Option;

/** Where the passphrase of an encrypted image is read from: a file, since what is typed behind a command is seen by others. */
final class PassphraseOption {
    @Option(names = "--passphrase-file", paramLabel = "FILE",
        description = "encrypt with, or open with, the passphrase in the first line of FILE")
    private Path file;

    Passphrase passphrase() throws IOException {
        if (file == null) {
            return Passphrase.NONE;
        }
        Optional<String> first;
        try (Stream<String> lines = Files.lines(file)) {
            first = lines.findFirst().filter(line -> !line.isEmpty());
        } catch (java.nio.file.NoSuchFileException missing) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, file.toString(), "There is no file " + file + " to read the passphrase from.")
                .asException();
        }
        return Passphrase.of(first
            .orElseThrow(
                () -> Fault.of(Fault.Kind.BAD_CHOICE, file.toString(), "The first line of " + file + " is empty. Put the passphrase there.")
                    .asException())
            .toCharArray());
    }
}
