package app.granary.server.office;

import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.Schema;
import java.util.ArrayList;
import java.util.List;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The description of the wire that the browser's types are made from. */
@Configuration
class OpenApi {
    /** Records always carry all their fields; what may be missing is null and says so. The address of this server is nobody's business. */
    @Bean
    OpenApiCustomizer everyFieldIsThere() {
        return api -> {
            api.setInfo(new Info().title("Granary").version("1"));
            api.setServers(List.of());
            for (Schema<?> schema : api.getComponents().getSchemas().values()) {
                if (schema.getProperties() != null) {
                    schema.setRequired(new ArrayList<>(schema.getProperties().keySet()));
                }
            }
        };
    }
}
