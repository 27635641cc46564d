using Microsoft.AspNetCore.Identity;

namespace OilTag.Data.People;

/// <summary>A person's sign-in. Their records point to <see cref="PersonId"/>, never to the account.</summary>
public sealed class Account : IdentityUser<Guid>
{
    public Account() => Id = Guid.CreateVersion7();

    public Guid PersonId { get; init; }
}
