package app.granary.cli;

import app.granary.core.measure.Reading;
import app.granary.core.measure.Sizes;
import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.util.DefaultPrettyPrinter;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;

/** The two forms a result is printed in: JSON for scripts, a short table for people. */
final class Printed {
    private static final JsonFactory JSON = new JsonFactory();

    private Printed() {
    }

    interface Fields {
        void write(JsonGenerator json) throws IOException;
    }

    /** One JSON object on standard output. */
    static void json(PrintWriter out, Fields fields) throws IOException {
        StringWriter text = new StringWriter();
        try (JsonGenerator json = JSON.createGenerator(text)) {
            json.setPrettyPrinter(new DefaultPrettyPrinter());
            json.writeStartObject();
            fields.write(json);
            json.writeEndObject();
        }
        out.println(text);
        out.flush();
    }

    /** A size in both readings, decimal first. */
    static String size(long bytes) {
        return Sizes.decimal(bytes) + " (" + Sizes.format(bytes, Reading.BINARY) + ")";
    }

    /** A name from a disk, without what would move the cursor of a terminal. */
    static String plain(String name) {
        return name.replaceAll("\\p{Cntrl}", "?");
    }

    static void row(PrintWriter out, String label, String value) {
        out.printf("%-14s %s%n", label, value);
        out.flush();
    }
}
