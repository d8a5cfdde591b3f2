package app.granary.cli;

import app.granary.core.destination.Disc;
import app.granary.core.fault.Fault;
import app.granary.engine.bag.Bag;
import app.granary.engine.disc.DiscFolders;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "discs", description = "Lays an image that was made in parts out for discs: a folder for each, with its label.",
    mixinStandardHelpOptions = true)
final class DiscsCommand implements Callable<Integer> {
    @Parameters(index = "0", paramLabel = "BAG", description = "the image's folder")
    Path bag;
    @Parameters(index = "1", paramLabel = "FOLDER", description = "an existing folder; on the image's own drive the discs take no room")
    Path folder;
    @Option(names = "--disc", paramLabel = "DVD+R|DVD-R|BD-R", description = "which blank discs there are (default: DVD+R)",
        defaultValue = "DVD+R")
    String disc;
    @Option(names = "--iso", description = "make an ISO 9660 image of each disc too, for whatever burns such")
    boolean iso;
    @Mixin
    Output output;

    @Override
    public Integer call() throws IOException {
        Disc kind = Disc.require(disc);
        if (!Files.isDirectory(folder)) {
            throw Fault.of(Fault.Kind.NOT_RECOGNISED, folder.toString(), folder + " is no folder. Name one with room for the discs.")
                .asException();
        }
        List<Path> made;
        try (ProgressLine watch = output.watch()) {
            made = DiscFolders.make(Bag.open(bag), folder, kind.bytes(), iso, watch);
        }
        PrintWriter out = output.out();
        if (output.json()) {
            Printed.json(out, fields -> {
                fields.writeArrayFieldStart("discs");
                for (Path each : made) {
                    fields.writeString(each.toString());
                }
                fields.writeEndArray();
            });
        } else {
            made.forEach(each -> Printed.row(out, "disc", each.toString() + (iso ? ", and as .iso" : "")));
        }
        return 0;
    }
}
