package app.granary.server;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

/** The arrows of the whole house: web, demo, server, stand-ins, engine, core, one way. */
@AnalyzeClasses(packages = "app.granary", importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {
    @ArchTest
    static final ArchRule CORE_KNOWS_NOBODY = noClasses().that().resideInAPackage("app.granary.core..").should().dependOnClassesThat()
        .resideInAnyPackage("app.granary.engine..", "app.granary.standins..", "app.granary.server..");

    @ArchTest
    static final ArchRule ENGINE_KNOWS_CORE = noClasses().that().resideInAPackage("app.granary.engine..").should().dependOnClassesThat()
        .resideInAnyPackage("app.granary.standins..", "app.granary.server..", "org.springframework..");

    @ArchTest
    static final ArchRule STAND_INS_KNOW_ENGINE_AND_CORE = noClasses().that().resideInAPackage("app.granary.standins..").should()
        .dependOnClassesThat()
        .resideInAnyPackage("app.granary.server..", "app.granary.demo..", "org.springframework..");

    @ArchTest
    static final ArchRule THE_SERVER_KNOWS_NO_STAND_IN = noClasses().that().resideInAPackage("app.granary.server..").should()
        .dependOnClassesThat()
        .resideInAnyPackage("app.granary.standins..", "app.granary.demo..");

    @ArchTest
    static final ArchRule CORE_GOES_ONE_WAY = slices().matching("app.granary.core.(*)..").should().beFreeOfCycles();

    @ArchTest
    static final ArchRule ENGINE_GOES_ONE_WAY = slices().matching("app.granary.engine.(*)..").should().beFreeOfCycles();

    @ArchTest
    static final ArchRule SERVER_GOES_ONE_WAY = slices().matching("app.granary.server.(*)..").should().beFreeOfCycles();

    @ArchTest
    static final ArchRule ENTITIES_STAY_INSIDE = classes().that().areAnnotatedWith(jakarta.persistence.Entity.class).should()
        .bePackagePrivate();
}
