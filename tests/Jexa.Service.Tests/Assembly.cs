using Jexa.Service.Tests;

[assembly: AssemblyFixture(typeof(DemoService))]
