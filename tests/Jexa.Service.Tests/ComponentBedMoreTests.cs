namespace Jexa.Service.Tests;

/// <summary>The other half of <see cref="ComponentBedTests"/>.</summary>
public sealed class ComponentBedMoreTests(AuditService service) : BedTests(service), IClassFixture<AuditService>
{
    public static TheoryData<string, string, string> Faults { get; } = Half("components", 1);

    [Theory]
    [MemberData(nameof(Faults))]
    public Task Each_fault_is_found(string bed, string fault, string code) => AssertFoundAsync(bed, fault, code);
}
