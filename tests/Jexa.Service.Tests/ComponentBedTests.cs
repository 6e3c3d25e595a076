namespace Jexa.Service.Tests;

/// <summary>Audits of an application of components, with its pages in the fragment.</summary>
public sealed class ComponentBedTests(AuditService service) : BedTests(service), IClassFixture<AuditService>
{
    public static TheoryData<string, string, string> Faults { get; } = Half("components", 0);

    [Theory]
    [InlineData("components", "")]
    [InlineData("components", "rows are clicked")]
    public Task A_right_application_has_no_finding_and_nothing_is_left_out(string bed, string fault) =>
        AssertRightAsync(bed, fault);

    [Theory]
    [MemberData(nameof(Faults))]
    public Task Each_fault_is_found(string bed, string fault, string code) => AssertFoundAsync(bed, fault, code);
}
