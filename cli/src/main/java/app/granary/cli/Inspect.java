package app.granary.cli;

import app.granary.core.disk.BlockSource;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.Gap;
import app.granary.core.filesystem.LeftOut;
import app.granary.core.filesystem.SurveyedPartition;
import com.fasterxml.jackson.core.JsonGenerator;
import java.io.IOException;
import java.io.PrintWriter;
import java.util.List;
import java.util.OptionalLong;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

@Command(name = "inspect", description = "Shows a disk's partitions, their file systems, used and free bytes.",
    mixinStandardHelpOptions = true)
final class Inspect implements Callable<Integer> {
    @Mixin
    DiskArgument disk;
    @Option(names = "--json", description = "print JSON")
    boolean json;
    @Spec
    CommandSpec spec;

    @Override
    public Integer call() throws IOException {
        try (BlockSource source = disk.open()) {
            DiskSurvey survey = DiskSurvey.of(source, disk.choice(source));
            PrintWriter out = spec.commandLine().getOut();
            if (json) {
                Printed.json(out, fields -> write(fields, survey));
            } else {
                print(out, survey);
            }
        }
        return 0;
    }

    private static void write(JsonGenerator json, DiskSurvey survey) throws IOException {
        json.writeNumberField("sizeBytes", survey.sizeBytes());
        json.writeNumberField("sectorBytes", survey.sectorBytes());
        json.writeStringField("scheme", survey.table().scheme());
        json.writeNumberField("toReadBytes", survey.usedBytes());
        json.writeArrayFieldStart("partitions");
        for (SurveyedPartition each : survey.partitions()) {
            json.writeStartObject();
            json.writeNumberField("number", each.partition().number());
            json.writeNumberField("startBytes", each.partition().startBytes());
            json.writeNumberField("sizeBytes", each.partition().sizeBytes());
            json.writeStringField("type", each.partition().type().code());
            json.writeStringField("typeName", each.partition().type().name());
            json.writeStringField("name", each.partition().name());
            json.writeStringField("fileSystem", each.fileSystem().kind());
            number(json, "usedBytes", each.fileSystem().usedBytes());
            number(json, "freeBytes", each.fileSystem().freeBytes());
            json.writeNumberField("toReadBytes", each.toRead().totalBytes());
            json.writeBooleanField("readWhole", survey.allBlocks() || each.readWhole());
            json.writeStringField("reason", survey.allBlocks() ? "every block was asked for" : each.reason());
            leftOut(json, each.leftOut());
            json.writeEndObject();
        }
        json.writeEndArray();
        json.writeArrayFieldStart("gaps");
        for (Gap gap : survey.gaps()) {
            json.writeStartObject();
            json.writeNumberField("startBytes", gap.startBytes());
            json.writeNumberField("sizeBytes", gap.sizeBytes());
            json.writeStringField("holds", gap.holds());
            json.writeEndObject();
        }
        json.writeEndArray();
        json.writeArrayFieldStart("remarks");
        for (String remark : survey.table().remarks()) {
            json.writeString(remark);
        }
        json.writeEndArray();
    }

    private static void leftOut(JsonGenerator json, List<LeftOut> leftOut) throws IOException {
        json.writeArrayFieldStart("leftOut");
        for (LeftOut each : leftOut) {
            json.writeStartObject();
            json.writeStringField("path", each.path());
            json.writeStringField("what", each.what().word());
            json.writeNumberField("bytes", each.bytes());
            json.writeEndObject();
        }
        json.writeEndArray();
    }

    private static void number(JsonGenerator json, String name, OptionalLong value) throws IOException {
        if (value.isPresent()) {
            json.writeNumberField(name, value.getAsLong());
        } else {
            json.writeNullField(name);
        }
    }

    private static void print(PrintWriter out, DiskSurvey survey) {
        Printed.row(out, "disk", survey.name() + ", " + Printed.size(survey.sizeBytes()) + ", " + survey.sectorBytes()
            + "-byte sectors, table: " + survey.table().scheme());
        for (SurveyedPartition each : survey.partitions()) {
            Printed.row(out, each.partition().number() == 0 ? "whole disk" : "partition " + each.partition().number(),
                each.fileSystem().kind() + ", "
                    + Printed.size(each.partition().sizeBytes()) + used(each)
                    + (each.partition().name().isEmpty() ? "" : ", \"" + each.partition().name() + "\""));
            for (LeftOut left : each.leftOut()) {
                Printed.row(out, "", "left out: " + left.what().word() + (left.path().isEmpty() ? "" : " " + left.path()) + ", "
                    + Printed.size(left.bytes()));
            }
        }
        survey.table().remarks().forEach(remark -> Printed.row(out, "note", remark));
        Printed.row(out, "to read", Printed.size(survey.usedBytes()));
    }

    private static String used(SurveyedPartition each) {
        String used = each.fileSystem().usedBytes().isPresent() ? ", " + Printed.size(each.fileSystem().usedBytes().getAsLong()) + " used"
            : "";
        return each.readWhole() ? used + ", read whole: " + each.reason() : used;
    }
}
