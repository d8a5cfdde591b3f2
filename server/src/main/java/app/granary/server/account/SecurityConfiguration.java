package app.granary.server.account;

import app.granary.server.home.FreeRoom;
import app.granary.server.home.GranarySettings;
import app.granary.server.problem.Problems;
import jakarta.servlet.DispatcherType;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.HashSet;
import java.util.Locale;
import java.util.Set;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpMethod;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.AuthenticationManager;
import org.springframework.security.config.ObjectPostProcessor;
import org.springframework.security.config.annotation.authentication.configuration.AuthenticationConfiguration;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.annotation.web.configuration.EnableWebSecurity;
import org.springframework.security.config.annotation.web.configurers.HeadersConfigurer;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.access.intercept.AuthorizationFilter;
import org.springframework.security.web.context.HttpSessionSecurityContextRepository;
import org.springframework.security.web.context.SecurityContextHolderFilter;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.security.web.csrf.CookieCsrfTokenRepository;
import org.springframework.security.web.csrf.CsrfFilter;
import org.springframework.security.web.csrf.CsrfToken;
import org.springframework.security.web.csrf.CsrfTokenRequestAttributeHandler;
import org.springframework.security.web.header.HeaderWriter;
import org.springframework.security.web.header.HeaderWriterFilter;
import org.springframework.security.web.header.writers.CacheControlHeadersWriter;
import org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter.ReferrerPolicy;
import org.springframework.web.filter.OncePerRequestFilter;
import org.springframework.web.servlet.HandlerExceptionResolver;

/** Session cookie, CSRF token, roles and headers. Reading needs an account, changing needs a technician. */
@Configuration
@EnableWebSecurity
class SecurityConfiguration {
    /** No script but our own files; styles may be inline because the component library writes style elements. */
    private static final String CONTENT_POLICY = "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src "
        + "'self' data:; font-src 'self'; "
        + "connect-src 'self'; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

    private static final HeaderWriter KEPT_BY_NOBODY = new CacheControlHeadersWriter();
    /** What is there says itself how long it may be kept. */
    private static final String ASSETS = "/assets/";

    @Bean
    PasswordEncoder passwordEncoder() {
        return new BCryptPasswordEncoder();
    }

    @Bean
    AuthenticationManager authenticationManager(AuthenticationConfiguration configuration) throws Exception {
        return configuration.getAuthenticationManager();
    }

    @Bean
    SecurityContextRepository securityContextRepository() {
        return new HttpSessionSecurityContextRepository();
    }

    @Bean
    SecurityFilterChain filterChain(HttpSecurity http, SecurityContextRepository contexts, Problems problems, Accounts accounts,
        FreeRoom room, GranarySettings settings,
        @Qualifier("handlerExceptionResolver") HandlerExceptionResolver resolver,
        @Value("${server.address}") String address) throws Exception {
        // the plain handler: the token travels in a cookie and comes back in a header, never in a page that could be compressed with it
        CookieCsrfTokenRepository tokens = CookieCsrfTokenRepository.withHttpOnlyFalse();
        tokens.setCookieCustomizer(cookie -> cookie.sameSite("Strict"));
        http.csrf(csrf -> csrf.csrfTokenRepository(tokens).csrfTokenRequestHandler(new HeaderOnly()));
        http.addFilterBefore(new ToldByProblems(resolver), SecurityContextHolderFilter.class);
        http.addFilterBefore(new OwnAddress(names(settings, address), problems), SecurityContextHolderFilter.class);
        http.addFilterAfter(new WriteCsrfCookie(), CsrfFilter.class);
        http.addFilterBefore(new StillSignedIn(accounts), AuthorizationFilter.class);
        http.addFilterAfter(new BodyLimits(problems), AuthorizationFilter.class);
        http.addFilterAfter(new RoomFirst(room, problems), BodyLimits.class);
        http.securityContext(context -> context.securityContextRepository(contexts));
        http.authorizeHttpRequests(requests -> requests
            .dispatcherTypeMatchers(DispatcherType.ERROR, DispatcherType.ASYNC).permitAll()
            .requestMatchers("/api/v1/session", "/api/v1/session/first", "/api/v1/session/invitation").permitAll()
            .requestMatchers("/api/v1/account/**").authenticated()
            .requestMatchers("/actuator/health").permitAll()
            .requestMatchers("/api/v1/elsewhere").hasRole("TECHNICIAN") // it reads through a whole drive
            .requestMatchers("/api/v1/inside/**").hasRole("TECHNICIAN") // it shows what is the computer's people's
            .requestMatchers(HttpMethod.GET, "/api/v1/**").hasAnyRole("VIEWER", "TECHNICIAN")
            .requestMatchers("/api/v1/**").hasRole("TECHNICIAN")
            .requestMatchers(HttpMethod.GET, "/**").permitAll()
            .anyRequest().denyAll());
        http.exceptionHandling(handling -> handling
            .authenticationEntryPoint(
                (request, response, why) -> problems.write(response, HttpStatus.UNAUTHORIZED, "not-signed-in", "Sign in first."))
            .accessDeniedHandler((request, response, why) -> problems.write(response, HttpStatus.FORBIDDEN, "not-allowed",
                why instanceof org.springframework.security.web.csrf.CsrfException
                    ? "This page is out of date. Load it again and repeat the action."
                    : "This account may look but not change anything. Ask a technician.")));
        http.headers(SecurityConfiguration::headers);
        http.formLogin(form -> form.disable()).httpBasic(basic -> basic.disable()).logout(logout -> logout.disable())
            .requestCache(cache -> cache.disable());
        return http.build();
    }

    private static void headers(HeadersConfigurer<HttpSecurity> headers) {
        headers.contentSecurityPolicy(policy -> policy.policyDirectives(CONTENT_POLICY))
            .frameOptions(HeadersConfigurer.FrameOptionsConfig::deny).referrerPolicy(policy -> policy.policy(ReferrerPolicy.NO_REFERRER))
            .cacheControl(HeadersConfigurer.CacheControlConfig::disable).addHeaderWriter((request, response) -> {
                if (!request.getRequestURI().startsWith(ASSETS)) {
                    KEPT_BY_NOBODY.writeHeaders(request, response);
                }
            }).addObjectPostProcessor(new HeadersFirst());
    }

    private static Set<String> names(GranarySettings settings, String address) {
        Set<String> out = new HashSet<>(Set.of("localhost", "127.0.0.1", "[::1]"));
        out.add(address.toLowerCase(Locale.ROOT));
        if (settings.screensToo()) {
            out.add(settings.listen().replaceFirst(":\\d+$", "").toLowerCase(Locale.ROOT));
        }
        settings.hosts().forEach(host -> out.add(host.toLowerCase(Locale.ROOT)));
        return out;
    }

    /**
     * Before a page is answered, and not after: what answers in a thread of its own, as an export or a stream of events does, would write
     * to the same headers at the same moment.
     */
    private static final class HeadersFirst implements ObjectPostProcessor<HeaderWriterFilter> {
        @Override
        public <F extends HeaderWriterFilter> F postProcess(F filter) {
            filter.setShouldWriteHeadersEagerly(true);
            return filter;
        }
    }

    /** A token in a form's field can be sent by a page that is not ours; one in a header cannot. */
    private static final class HeaderOnly extends CsrfTokenRequestAttributeHandler {
        @Override
        public String resolveCsrfTokenValue(HttpServletRequest request, CsrfToken token) {
            return request.getHeader(token.getHeaderName());
        }
    }

    /** Tokens are made when asked for; a page without forms asks here, so that its cookie is always there. */
    private static final class WriteCsrfCookie extends OncePerRequestFilter {
        @Override
        protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
            if (request.getAttribute(CsrfToken.class.getName()) instanceof CsrfToken token) {
                token.getToken();
            }
            chain.doFilter(request, response);
        }
    }
}
