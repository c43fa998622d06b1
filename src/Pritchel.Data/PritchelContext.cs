using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;

namespace Pritchel.Data;

/// <summary>The record: one SQLite file, with those who may sign in to it.</summary>
public sealed class PritchelContext(DbContextOptions<PritchelContext> options) : IdentityUserContext<Member>(options)
{
    /// <summary>Name of whoever writes just now; null where nobody is asked who they are.</summary>
    public string? Author { get; set; }

    /// <summary>Machine files, by version.</summary>
    public DbSet<MachineRow> Machines => Set<MachineRow>();

    /// <summary>Jobs.</summary>
    public DbSet<JobRow> Jobs => Set<JobRow>();

    /// <summary>Events of jobs.</summary>
    public DbSet<JobEventRow> JobEvents => Set<JobEventRow>();

    /// <summary>Settings of the installation.</summary>
    public DbSet<SettingRow> Settings => Set<SettingRow>();

    /// <summary>Machines being drawn or changed.</summary>
    public DbSet<DraftRow> Drafts => Set<DraftRow>();

    /// <summary>Steps of drafts.</summary>
    public DbSet<DraftStepRow> DraftSteps => Set<DraftStepRow>();

    /// <summary>Part tests.</summary>
    public DbSet<PartTestRow> PartTests => Set<PartTestRow>();

    /// <summary>Steps of part tests.</summary>
    public DbSet<PartTestStepRow> PartTestSteps => Set<PartTestStepRow>();

    /// <summary>Rewires.</summary>
    public DbSet<RewireRow> Rewires => Set<RewireRow>();

    /// <summary>Steps of rewires.</summary>
    public DbSet<RewireStepRow> RewireSteps => Set<RewireStepRow>();

    /// <summary>Pictures of machines.</summary>
    public DbSet<PictureRow> Pictures => Set<PictureRow>();

    /// <inheritdoc/>
    public override int SaveChanges(bool acceptAllChangesOnSuccess)
    {
        Sign();
        return base.SaveChanges(acceptAllChangesOnSuccess);
    }

    /// <inheritdoc/>
    public override Task<int> SaveChangesAsync(
        bool acceptAllChangesOnSuccess,
        CancellationToken cancellationToken = default
    )
    {
        Sign();
        return base.SaveChangesAsync(acceptAllChangesOnSuccess, cancellationToken);
    }

    /// <inheritdoc/>
    protected override void OnModelCreating(ModelBuilder builder)
    {
        base.OnModelCreating(builder);
        builder.Entity<Member>().ToTable("Members").Property(m => m.Role).HasConversion<string>();
        builder.Entity<IdentityUserClaim<string>>().ToTable("MemberClaims");
        builder.Entity<IdentityUserLogin<string>>().ToTable("MemberLogins");
        builder.Entity<IdentityUserToken<string>>().ToTable("MemberTokens");
        builder.Entity<MachineRow>().HasKey(m => new { m.MachineId, m.Version });
        builder.Entity<JobRow>().HasIndex(j => j.Number).IsUnique();
        builder.Entity<JobRow>().HasIndex(j => new { j.IsClosed, j.Number });
        builder
            .Entity<JobRow>()
            .HasOne<MachineRow>()
            .WithMany()
            .HasForeignKey(j => new { j.MachineId, j.MachineVersion })
            .OnDelete(DeleteBehavior.Restrict);
        builder
            .Entity<JobRow>()
            .HasMany(j => j.Events)
            .WithOne()
            .HasForeignKey(e => e.JobId)
            .OnDelete(DeleteBehavior.Restrict);
        builder.Entity<JobEventRow>().HasIndex(e => new { e.JobId, e.Sequence }).IsUnique();
        builder.Entity<SettingRow>().HasKey(s => s.Name);
        builder.Entity<DraftRow>().HasMany(d => d.Steps).WithOne().HasForeignKey(s => s.DraftId);
        builder.Entity<DraftStepRow>().HasKey(s => new { s.DraftId, s.Sequence });
        builder.Entity<PartTestRow>().HasIndex(t => t.Number).IsUnique();
        builder.Entity<PartTestRow>().HasMany(t => t.Steps).WithOne().HasForeignKey(s => s.PartTestId);
        builder.Entity<PartTestStepRow>().HasKey(s => new { s.PartTestId, s.Sequence });
        builder.Entity<RewireRow>().HasIndex(r => r.Number).IsUnique();
        builder.Entity<RewireRow>().HasMany(r => r.Steps).WithOne().HasForeignKey(s => s.RewireId);
        builder.Entity<RewireStepRow>().HasKey(s => new { s.RewireId, s.Sequence });
        builder.Entity<PictureRow>().HasIndex(p => p.MachineId);
    }

    /// <summary>Puts the author's name to what is new and has none.</summary>
    private void Sign()
    {
        foreach (var row in ChangeTracker.Entries<IAuthored>().Where(r => r.State == EntityState.Added))
        {
            row.Entity.By ??= Author;
        }
    }
}
