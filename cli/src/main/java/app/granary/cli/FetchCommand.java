package app.granary.cli;

import app.granary.core.disk.BlockSource;
import app.granary.engine.files.DiskFiles;
import app.granary.engine.files.Fetch;
import app.granary.engine.files.FilePlace;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

@Command(name = "fetch", mixinStandardHelpOptions = true,
    description = "Takes one file, or a folder with all that is in it, out of an image or off a disk. Exit 1: something of it could not be "
        + "read.")
final class FetchCommand implements Callable<Integer> {
    @Mixin
    LookedInto image;
    @Parameters(index = "1", paramLabel = "N:/PATH", description = "partition number, colon, path")
    String place;
    @Parameters(index = "2", paramLabel = "OUT", description = "where to; nothing that is there is written over")
    Path out;
    @Mixin
    Output output;

    @Override
    public Integer call() throws IOException {
        Fetch.Fetched fetched;
        try (BlockSource source = image.open(); ProgressLine watch = output.watch()) {
            fetched = Fetch.run(new DiskFiles(source), FilePlace.parse(place), out, watch);
        }
        PrintWriter printed = output.out();
        if (output.json()) {
            Printed.json(printed, fields -> {
                fields.writeStringField("at", fetched.at().toString());
                fields.writeNumberField("files", fetched.files());
                fields.writeNumberField("bytes", fetched.bytes());
                fields.writeArrayFieldStart("passedOver");
                for (String each : fetched.passedOver()) {
                    fields.writeString(each);
                }
                fields.writeEndArray();
            });
        } else {
            Printed.row(printed, "fetched", fetched.at() + ", " + fetched.files() + (fetched.files() == 1 ? " file, " : " files, ")
                + Printed.size(fetched.bytes()));
            fetched.passedOver().forEach(each -> Printed.row(printed, "not", Printed.plain(each)));
        }
        return fetched.passedOver().isEmpty() ? 0 : 1;
    }
}
