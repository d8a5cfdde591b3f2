package app.granary.server.office;

import java.time.Duration;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.CacheControl;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/** Scripts, styles and letters of the pages. Their names tell what is in them, so a browser that has one need not ask for it again. */
@Configuration
class Assets implements WebMvcConfigurer {
    private static final Duration A_YEAR = Duration.ofDays(365);

    @Override
    public void addResourceHandlers(ResourceHandlerRegistry registry) {
        registry.addResourceHandler("/assets/**").addResourceLocations("classpath:/static/assets/")
            .setCacheControl(CacheControl.maxAge(A_YEAR).cachePrivate().immutable());
    }
}
