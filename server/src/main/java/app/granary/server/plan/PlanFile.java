package app.granary.server.plan;

import app.granary.server.problem.Refused;
import com.fasterxml.jackson.annotation.JsonProperty;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import jakarta.validation.ConstraintViolation;
import jakarta.validation.Validator;
import java.util.Comparator;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;

/** A plan as a file: JSON after {@code docs/plan.schema.json}, readable by people, the same bytes for the same plan. */
@Component
class PlanFile {
    /** Raised when an older Granary would misread the file. */
    static final int VERSION = 1;
    /** A plan is a page of text; more is no plan. */
    private static final int LONGEST = 100_000;
    private static final String VERSION_FIELD = "granaryPlan";

    private final Validator validator;
    private final ObjectMapper json = JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT)
        .enable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
        .enable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES).enable(DeserializationFeature.FAIL_ON_MISSING_CREATOR_PROPERTIES)
        .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS).build();

    PlanFile(Validator validator) {
        this.validator = validator;
    }

    /** What else a file says beside the plan. */
    private record Envelope(@JsonProperty(VERSION_FIELD) int version, PlanForm plan) {
    }

    String write(PlanForm form) {
        try {
            return json.writeValueAsString(new Envelope(VERSION, form)) + "\n";
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    /** The plan alone, as it is kept. */
    String keep(PlanForm form) {
        try {
            return json.writer().without(SerializationFeature.INDENT_OUTPUT).writeValueAsString(form);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    PlanForm kept(String document) {
        try {
            return json.treeToValue(completed(json.readTree(document)), PlanForm.class);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException("a plan kept earlier cannot be read", impossible);
        }
    }

    /** @throws Refused when it is no plan file, or one of a newer version, with what is wrong and where */
    PlanForm read(String text) {
        if (text.length() > LONGEST) {
            throw refused("This file is longer than any plan. Choose a plan file as Granary writes it.");
        }
        try {
            JsonNode tree = json.readTree(text);
            if (!(tree instanceof ObjectNode) || !tree.path(VERSION_FIELD).isIntegralNumber()) {
                throw refused("This is no plan file: it does not begin with \"" + VERSION_FIELD + "\". Choose one that Granary wrote.");
            }
            int version = tree.path(VERSION_FIELD).asInt();
            if (version > VERSION) {
                throw refused("This plan was written by a newer Granary (plan version " + version + "); this one reads version " + VERSION
                    + ". Update Granary, then import it again.");
            }
            completed(tree.path("plan"));
            PlanForm form = json.treeToValue(tree, Envelope.class).plan();
            if (form == null) {
                throw refused("This file holds no plan. Choose one that Granary wrote.");
            }
            validator.validate(form).stream().min(Comparator.comparing(v -> v.getPropertyPath().toString())).ifPresent(PlanFile::refuse);
            return form;
        } catch (JsonProcessingException wrong) {
            String where = wrong.getLocation() == null || wrong.getLocation().getLineNr() < 1 ? ""
                : " in line " + wrong.getLocation().getLineNr();
            throw refused("This file cannot be read as a plan" + where + ": " + wrong.getOriginalMessage().replaceAll("\\s*\\(.*", "")
                + ". Repair it, or export the plan again.");
        }
    }

    /** What older files do not say yet, as it was meant then. */
    private static JsonNode completed(JsonNode plan) {
        if (plan instanceof ObjectNode whole && !whole.has("folder")) {
            whole.put("folder", "");
        }
        if (plan.path("keep") instanceof ObjectNode keep) {
            for (String days : new String[] {"minimumDays", "maximumDays"}) {
                if (!keep.has(days)) {
                    keep.put(days, 0);
                }
            }
            if (!keep.has("leastProven")) {
                keep.put("leastProven", 1);
            }
            for (String choice : new String[] {"asOffice", "automatic"}) {
                if (!keep.has(choice)) {
                    keep.put(choice, false);
                }
            }
        }
        return plan;
    }

    private static void refuse(ConstraintViolation<PlanForm> violation) {
        throw refused(
            "\"" + violation.getPropertyPath() + "\" in this file " + violation.getMessage() + ". Repair it, or export the plan again.");
    }

    private static Refused refused(String sentence) {
        return new Refused(HttpStatus.UNPROCESSABLE_ENTITY, "bad-plan-file", "", sentence);
    }
}
